# frozen_string_literal: true

RSpec.describe Fobrel::Core::Stroke::Comparison do
  # The same pictures as in ssim_values.py.
  def picture(k)
    x = Numo::DFloat.new(1, 80).seq
    y = Numo::DFloat.new(48, 1).seq
    m = Numo::DFloat::Math
    0.5 + m.sin(x * (0.11 + 0.02 * k) + k) * m.cos(y * 0.17) * 0.35 + m.sin(x * y * 0.013 * (k + 1)) * 0.12
  end

  let(:pictures) {
    [
      *(0..3).map {
        picture(_1)
      },
      (picture(0) * 0.6 + 0.3).clip(0, 1),
      Numo::DFloat.new(48, 80).fill(0.25)
    ]
  }

  # Outside reference: scikit-image's structural_similarity; ssim_values.py wrote the values.
  JSON.parse(File.read(File.join(__dir__, "ssim_values.json"))).each do |i, j, expected|
    it "finds an SSIM of #{expected.round(4)} between pictures #{i} and #{j}" do
      expect(described_class.ssim(pictures[i], pictures[j])).to be_within(1e-6).of(expected)
    end
  end

  # Where nothing differs is left out; that must not be where little differs.
  it "misses no faint difference" do
    faint = pictures[0].dup
    faint[20...36, 30...60] += picture(2)[20...36, 30...60] * 0.02
    found = described_class.ssim(pictures[0], faint)
    expect(found).to be_within(1e-9).of(described_class.map(pictures[0], faint).mean)
    expect(found).to be < 1
  end

  def page(size, colour: "#202020")
    S::Painter.new(round_preset(size:)).paint(
      line(40, 40, 160, 40),
      page: [200, 80],
      colour: S::Colour.parse(colour)
    ).page
  end

  it "finds nothing between the same strokes" do
    expect(
      described_class.of(
        page(20),
        page(20)
      ).to_h
    ).to eq(ssim: 1.0, mean_difference: 0.0, greatest_difference: 0.0, seen: 0.0)
  end

  it "finds more the more a brush changes, and says where" do
    found = [22, 26, 34].map { described_class.of(page(20), page(_1)) }
    expect(found.map { _1.to_h[:ssim] }).to eq(found.map { _1.to_h[:ssim] }.sort.reverse)
    expect(found.map { _1.to_h[:seen] }).to eq(found.map { _1.to_h[:seen] }.sort)
    across = found.last.differences[true, 100]
    expect([across[40], across[5]]).to eq([0, 0])
    expect(across[40 - 14]).to be > 50
  end

  it "sees a change of colour that leaves the shape alone" do
    found = described_class.of(page(20, colour: "#0f6b6b"), page(20, colour: "#0f6b5b")).to_h
    expect(found[:greatest_difference]).to be > 3
    expect(found[:ssim]).to be > 0.99
  end

  it "draws the differences, and refuses pages of two sizes" do
    image = Vips::Image.new_from_buffer(described_class.of(page(20), page(40)).to_png, "")
    expect([image.width, image.height]).to eq([200, 80])
    red, green, = image.getpoint(100, 40 - 14)
    expect(red).to be > green + 40
    expect { described_class.of(page(20), S::Page.blank(20, 20)) }.to raise_error(ArgumentError)
  end
end
