# frozen_string_literal: true

# What runs or loads in an SVG, after the vectors that OWASP's cheat sheet on filter evasion and W3C SVG 2
# (chapter 2.7, secure static mode) name; written down from memory.
RSpec.describe Fobrel::Core::Tip::Cleaning do
  def self.svg(inner, more = "")
    "<svg xmlns='http://www.w3.org/2000/svg' xmlns:xlink='http://www.w3.org/1999/xlink' xmlns:more='urn:more' " \
      "width='10' height='10'#{more}>#{inner}</svg>"
  end

  def svg(...) = self.class.svg(...)

  leaf = "<path d='M1 1h8v8h-8z'/>"

  {
    "a script" => svg("<script>alert(1)</script>#{leaf}"),
    "a script of another name space" => svg(
      "<x:script xmlns:x='http://www.w3.org/1999/xhtml'>alert(1)</x:script>#{leaf}"
    ),
    "a handler" => svg(leaf, " onload='alert(1)'"),
    "a handler in odd letters" => svg("<path d='M0 0h9' oNcLick='alert(1)'/>"),
    "a page" => svg(
      "<foreignObject><body xmlns='http://www.w3.org/1999/xhtml'><iframe " \
        "src='http://a.invalid'/></body></foreignObject>#{leaf}"
    ),
    "a link" => svg("<a xlink:href='javascript:alert(1)'>#{leaf}</a>"),
    "a picture from outside" => svg("<image href='http://a.invalid/x.png' width='9' height='9'/>#{leaf}"),
    "a picture of its own" => svg("<image href='data:image/png;base64,AAAA' width='9' height='9'/>#{leaf}"),
    "a filter's picture" => svg("<filter id='f'><feImage href='file:///etc/passwd'/></filter>#{leaf}"),
    "a use of another file" => svg("<use xlink:href='other.svg#a'/>#{leaf}"),
    "a fill of another file" => svg("<path d='M0 0h9' fill='url(http://a.invalid/#p)'/>"),
    "a style that loads" => svg(
      "<style>@import url(http://a.invalid/a.css); path { fill: url( 'http://a.invalid#b' ) }</style>#{leaf}"
    ),
    "a style beside it" => svg("<path d='M0 0h9' style='filter: url(//a.invalid#f)'/>"),
    "a place to begin from" => svg(leaf, " xml:base='http://a.invalid/'"),
    "a change in time" => svg("<path id='p' d='M0 0h9'><set attributeName='onclick' to='alert(1)'/></path>")
  }.each do |what, text|
    it "finds #{what} and takes it out" do
      expect(described_class.active(text)).not_to be_empty
      cleaned = described_class.of(text)
      expect(described_class.active(cleaned)).to be_empty
      expect(cleaned).not_to match(/alert|invalid|passwd|AAAA/)
      expect(cleaned).to include("<path")
      expect(described_class.of(cleaned)).to eq(cleaned)
    end
  end

  it "leaves a drawing as it is painted" do
    drawing = svg(
      "<defs><linearGradient id='g'><stop offset='0' stop-color='#000'/><stop offset='1' " \
        "stop-color='#fff'/></linearGradient><clipPath id='c'><circle cx='5' cy='5' r='4'/></clipPath></defs>" \
        "<style>.a " \
        "{ fill: url(#g) }</style><g clip-path='url(#c)' transform='rotate(20)'><rect class='a' width='9' " \
        "height='9'/><use xlink:href='#c'/></g><more:own>notes</more:own><!-- a word -->"
    )
    cleaned = described_class.of(drawing)
    expect(described_class.active(drawing)).to be_empty
    expect(cleaned).not_to match(/notes|a word/)
    vector = Fobrel::Core::Tip::Vector
    expect(vector.cover(cleaned, 200)).to eq(vector.cover(drawing, 200))
  end

  it "refuses a shape of a package that would run something, and keeps a loose one cleaned" do
    text = svg("<script>alert(1)</script>#{leaf}")
    expect {
      Fobrel::Core::Tip::Outside.check_shape(
        text,
        name: "leaf.svg"
      )
    }.to raise_error(
      Fobrel::Core::Tip::Picture::Unreadable,
      /leaf.svg is a drawing that would run or load something \(<script>\)/
    )
    found = Fobrel::Core::Package::Delivery.read(
      [
        Fobrel::Core::Package::Delivery::File.new(
          "leaf.svg",
          StringIO.new(text.b)
        )
      ]
    )
    expect(found.assets.values.map(&:bytes)).to match([include("<path").and(satisfy { !_1.include?("alert") })])
  end
end
