# frozen_string_literal: true

# Pictures of every kind we read, as other programs write them (here: libvips' own writers).
RSpec.describe Fobrel::Core::Tip::Picture do
  def mark = Vips::Image.black(60, 40).invert.draw_rect([0], 10, 5, 20, 30, fill: true).copy(interpretation: :b_w)

  def luma(bytes) = described_class.read(bytes, name: "mark").luma

  {
    "png" => :pngsave_buffer,
    "jpg" => :jpegsave_buffer,
    "webp" => :webpsave_buffer,
    "tif" => :tiffsave_buffer,
    "gif" => :gifsave_buffer
  }.each do |kind, writer|
    it "reads #{kind}" do
      bytes = ((kind == "gif") ? mark.colourspace(:srgb) : mark).public_send(writer)
      expect(described_class.kind(bytes)).to eq(kind)
      tones = luma(bytes)
      expect(tones.shape).to eq([40, 60])
      expect([tones[20, 20], tones[20, 50]]).to match([be < 0.03, be > 0.97])
    end

    it "refuses half a #{kind}" do
      noisy = Vips::Image.gaussnoise(200, 200, mean: 128, sigma: 60).cast(:uchar).copy(interpretation: :b_w)
      bytes = ((kind == "gif") ? noisy.colourspace(:srgb) : noisy).public_send(writer)
      expect { luma(bytes[0, bytes.bytesize / 2]) }.to raise_error(described_class::Unreadable, /damaged or cut off/)
    end
  end

  it "reads sixteen bits, keeping their steps" do
    deep = Vips::Image.new_from_array([[0, 16_384, 32_768, 65_535]]).cast(:ushort).copy(interpretation: :grey16)
    expect(luma(deep.pngsave_buffer)[0, true].to_a).to match([0, 0.25, 0.5, 1].map { be_within(0.001).of(_1) })
  end

  it "turns a photograph upright, as its camera noted" do
    turned = mark.mutate { |image| image.set_type!(GObject::GINT_TYPE, "orientation", 6) }
    expect(luma(turned.jpegsave_buffer).shape).to eq([60, 40])
  end

  it "reads a palette with a see-through colour over white" do
    image = mark.colourspace(:srgb).bandjoin(mark)
    tones = luma(image.pngsave_buffer(palette: true))
    expect([tones[20, 20], tones[20, 50]]).to match([be > 0.97, be > 0.97])
    expect(described_class.read(image.pngsave_buffer).planes.last.minmax).to eq([0, 1])
  end

  it "reads printing colours" do
    cmyk = Vips::Image.black(20, 20, bands: 4).linear(
      [1, 1, 1, 1],
      [0, 0, 0, 255]
    ).cast(:uchar).copy(interpretation: :cmyk)
    expect(luma(cmyk.jpegsave_buffer).max).to be < 0.35
  end

  it "takes the first page of several" do
    first = Vips::Image.black(10, 10)
    pages = first.join(first.invert, :vertical).mutate { |image|
      image.set_type!(GObject::GINT_TYPE, "page-height", 10)
    }
    expect(luma(pages.cast(:uchar).tiffsave_buffer).shape).to eq([10, 10])
  end

  it "refuses a file larger than any tip needs" do
    stub_const("#{described_class}::MAX_BYTES", 100)
    expect { luma(mark.pngsave_buffer + "x" * 100) }.to raise_error(described_class::Unreadable, /larger than/)
  end

  it "reads what carries comments, and passes none of them on" do
    noted = mark.mutate { |image| image.set_type!(GObject::GSTR_TYPE, "png-comment-0-Author", "somebody") }
    made = Fobrel::Core::Tip::Maker.make(noted.pngsave_buffer)
    expect(noted.pngsave_buffer).to include("Author")
    expect(made.png).not_to include("Author")
  end
end
