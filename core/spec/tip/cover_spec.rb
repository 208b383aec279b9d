# frozen_string_literal: true

RSpec.describe Fobrel::Core::Tip::Cover do
  def cover_of(tone) = described_class.from_luma(Fobrel::Core::Tip::Picture.read(grey_png([[tone]])).luma).greatest

  # Common practice, no source: black paints fully, white not at all, 50 % grey at about half.
  it "makes tone into cover" do
    expect([cover_of(0), cover_of(255), cover_of(128)].map { _1.round(3) }).to eq([1.0, 0.0, 0.498])
  end

  # ITU-R BT.709: Y′ = 0.2126 R′ + 0.7152 G′ + 0.0722 B′.
  it "weighs red, green and blue as BT.709 does" do
    image = Vips::Image.black(3, 1).bandjoin([Vips::Image.black(3, 1), Vips::Image.black(3, 1)])
    image = image.draw_rect([255, 0, 0], 0, 0, 1, 1).draw_rect([0, 255, 0], 1, 0, 1, 1).draw_rect(
      [0, 0, 255],
      2,
      0,
      1,
      1
    )
    luma = Fobrel::Core::Tip::Picture.read(image.cast(:uchar).copy(interpretation: :srgb).pngsave_buffer).luma
    expect(luma.to_a.first.map { (1 - _1).round(4) }).to eq([1 - 0.2126, 1 - 0.7152, 1 - 0.0722].map { _1.round(4) })
  end

  it "sets black and white points, and bends the tones between by gamma" do
    luma = Numo::SFloat[[0, 50, 100, 150, 200, 255]] / 255
    expect(described_class.from_luma(luma, black: 50, white: 150).values.to_a.first).to match(
      [1, 1, 0.5, 0, 0, 0].map {
        be_within(1e-5).of(_1)
      }
    )
    expect(described_class.from_luma(luma, gamma: 2).values[0, 3]).to be_within(1e-5).of((105 / 255.0)**2)
    expect { described_class.from_luma(luma, black: 200, white: 200) }.to raise_error(ArgumentError)
  end

  it "lays a see-through picture over white" do
    image = Vips::Image.new_from_array([[0]]).bandjoin([0, 0, 128]).cast(:uchar).copy(interpretation: :srgb)
    luma = Fobrel::Core::Tip::Picture.read(image.pngsave_buffer).luma
    expect(1 - luma[0]).to be_within(0.001).of(128 / 255.0)
  end

  it "crops to the mark, centred in an even square" do
    values = Numo::SFloat.zeros(50, 70)
    values[10..16, 20..50] = 1
    square = described_class[values].crop
    expect([square.width, square.height, square.values.sum]).to eq([32, 32, 7 * 31])
    rows = (square.values > 0).any?(1).where
    expect((rows.min + rows.max) / 2.0).to be_within(0.51).of(15.5)
  end

  it "does not count what two steps of 255 leave on paper" do
    values = Numo::SFloat.new(20, 20).fill(2.0 / 255)
    values[8..11, 8..11] = 1
    expect(described_class[values].crop.width).to eq(4)
  end

  it "refuses to crop to nothing" do
    expect { described_class[Numo::SFloat.zeros(5, 5)].crop }.to raise_error(described_class::Empty, /Nothing was kept/)
  end

  # Common practice, no source: for a brush that paints solid the source has to be fully black.
  it "calls a tip solid from a cover of 0.98 on" do
    expect(described_class[[[0.979]]].solid?).to be false
    expect(described_class[[[0.98]]].solid?).to be true
    expect(described_class[[[1, 1, 0.5, 0]]].solid_share).to be_within(1e-6).of(2 / 3.0)
  end

  it "keeps the total cover within 1 % through half the size and back" do
    x = Numo::SFloat.new(64).seq
    values = (Numo::NMath.sin(x * 0.31).reshape(1, 64) * Numo::NMath.cos(x * 0.17).reshape(64, 1) + 1) / 2
    cover = described_class[values]
    [[32, 32], [33, 33], [47, 47]].each do |side|
      back = cover.scale(*side).scale(64, 64)
      expect(back.values.sum / cover.values.sum).to be_within(0.01).of(1)
    end
  end

  it "shrinks by averaging areas exactly" do
    expect(
      described_class[[[0, 1, 1], [0, 1, 1]]].scale(
        2,
        1
      ).values.to_a.flatten
    ).to match([be_within(1e-6).of(1 / 3.0), be_within(1e-6).of(1)])
  end

  it "is written with black painting and read back the same" do
    cover = described_class[[[0, 0.2], [0.4, 1]]]
    again = described_class.from_file(cover.to_png)
    expect((again.values - cover.values).abs.max).to be <= 0.5 / 255 + 1e-6
  end

  it "is solid only where more than a few stray pixels are" do
    grey = Numo::SFloat.new(100, 100).fill(0.6)
    stray = grey.dup.tap { _1[0...3, 0] = 1 }
    part = grey.dup.tap { _1[0...10, 0...20] = 1 }
    expect([grey, stray, part].map { described_class[_1].solid? }).to eq([false, false, true])
  end
end
