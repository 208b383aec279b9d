# frozen_string_literal: true

RSpec.describe Fobrel::Core::Tip::Preview do
  preview = described_class

  def pixels(png) = Vips::Image.new_from_buffer(png, "")

  preview::SYMBOLS.each_key do |name|
    it "draws the symbol #{name} whole, in any colour, with room around it" do
      image = pixels(preview.symbol(name, "#2040c0"))
      expect([image.width, image.height, image.bands]).to eq([256, 256, 4])
      alpha = image[3]
      left, top, width, height = (alpha > 128).find_trim(threshold: 0.5, background: [0])
      expect([left, top].min).to be >= 20
      expect([left + width, top + height].max).to be <= 236
      expect([width, height].max).to be > 130
      share = alpha.avg / 255
      expect(share).to be_between(0.04, 0.6)
      solid = (alpha == 255)
      [0x20, 0x40, 0xc0].each_with_index do |tone, band|
        expect(((image[band] - tone).abs * (solid / 255)).max).to be <= 1
      end
    end
  end

  it "has a drawing for each symbol and no other" do
    drawn = Dir.children(preview::FOLDER).map { |file| File.basename(file, ".svg") }
    expect(drawn.sort).to eq(preview::SYMBOLS.keys.sort)
    expect { preview.symbol("../nib", "#000000") }.to raise_error(KeyError)
    expect { preview.symbol("nib", "#000000\"/>") }.to raise_error(ArgumentError)
  end

  # Against libvips' own crop and reduction of the same pixels.
  it "takes the square that was chosen, or the largest in the middle" do
    across = Vips::Image.xyz(800, 400)[0] * (255 / 800.0)
    down = Vips::Image.xyz(800, 400)[1] * (255 / 400.0)
    picture = across.bandjoin([down, across * 0]).cast(:uchar).copy(interpretation: :srgb)
    png = picture.pngsave_buffer
    chosen = pixels(preview.cropped(png, box: [0.5, 0.25, 0.25]))
    wanted = picture.crop(400, 100, 200, 200).resize(256.0 / 200)
    expect((chosen[0..2] - wanted).abs.max).to be <= 2
    middle = pixels(preview.cropped(png))
    expect((middle[0..2] - picture.crop(200, 0, 400, 400).resize(256.0 / 400)).abs.max).to be <= 2
  end

  it "keeps what is see-through, and no dark seam comes of it" do
    picture = Vips::Image.black(300, 300).bandjoin([0, 0, 0].map { |tone| Vips::Image.black(300, 300) + tone })
    picture = picture.cast(:uchar).copy(interpretation: :srgb).draw_circle(
      [200, 90, 30, 255],
      150,
      150,
      100,
      fill: true
    )
    image = pixels(preview.cropped(picture.pngsave_buffer))
    expect(image.getpoint(2, 2).last).to eq(0)
    rim = (image[3] > 20) & (image[3] < 235)
    expect(((image[0] - 200).abs * (rim / 255)).max).to be <= 3
  end

  it "refuses what is not a picture, and a drawing that is a trap" do
    expect { preview.cropped("hello") }.to raise_error(Fobrel::Core::Tip::Picture::Unreadable)
    bomb = '<!DOCTYPE svg [<!ENTITY a "aaaa">]><svg xmlns="http://www.w3.org/2000/svg">&a;</svg>'
    expect { preview.cropped(bomb) }.to raise_error(Fobrel::Core::Tip::Picture::Unreadable)
    thin = Vips::Image.black(1, 5000).pngsave_buffer
    expect(pixels(preview.cropped(thin)).size).to eq([256, 256])
  end
end
