# frozen_string_literal: true

RSpec.describe Fobrel::Core::Stroke::Page do
  def ink = S::Colour.parse("#1d2026")

  it "writes what it holds: RGB where nothing shows through, else RGBA" do
    solid = Vips::Image.new_from_buffer(described_class.plain(4, 3, S::Colour.parse("#a3312f")).to_png, "")
    expect(
      [
        solid.width,
        solid.height,
        solid.bands,
        solid.getpoint(0, 0)
      ]
    ).to eq([4, 3, 3, [0xa3, 0x31, 0x2f].map(&:to_f)])
    clear = Vips::Image.new_from_buffer(described_class.plain(4, 3, S::Colour.parse("#a3312f"), alpha: 0.5).to_png, "")
    expect(clear.getpoint(0, 0)).to eq([0xa3, 0x31, 0x2f, 128].map(&:to_f))
  end

  it "comes from a picture and goes back unharmed" do
    image = Vips::Image.black(3, 2, bands: 3) + [10, 200, 90]
    png = image.bandjoin(120).cast(:uchar).copy(interpretation: :srgb).pngsave_buffer
    again = Vips::Image.new_from_buffer(described_class.of(Fobrel::Core::Tip::Picture.read(png)).to_png, "")
    expect((again - Vips::Image.new_from_buffer(png, "")).abs.max).to be <= 1
  end

  it "is left as it was by nothing laid on it" do
    page = described_class.plain(4, 3, ink, alpha: 0.3)
    nothing = described_class.blank(4, 3)
    [
      page.under(nothing),
      page.over(nothing),
      page.without(nothing),
      *S::Blending::MODES.map {
        page.under(nothing, mode: _1)
      }
    ].each do |same|
      expect(same.planes.zip(page.planes).map { (_1 - _2).abs.max }.max).to be < 1e-6
    end
  end

  it "prepares a ground only for a stroke that would not show" do
    under = ->(document) { S::Ground.under(Preset[document], 90, 20) }
    plain = round_preset.to_h
    paint = ->(**changes) { plain.merge("paint" => changes.transform_keys(&:to_s)) }
    expect(under[plain]).to be_nil
    expect(under[paint[colour: {"mode" => "fixed", "value" => "#123456"}]]).to be_nil
    prepared = [
      plain.merge("method" => "smear"),
      paint[mix: 0.3],
      paint[eraser: true],
      paint[blend: "screen"],
      plain.merge("extras" => {"behind" => true}),
      paint[colour: {"mode" => "fixed", "value" => "#fffff0"}]
    ].map(&under)
    expect(prepared.map { [_1.width, _1.height] }.uniq).to eq([[90, 20]])
    expect(prepared.map { _1.planes.first.max }).to all(be > 0.7)
    expect(prepared[0].planes.first.min).to eq(0)
  end

  it "shows every kind of brush in its strip" do
    kinds = [
      {"method" => "smear"},
      {"paint" => {"eraser" => true}},
      {"paint" => {"blend" => "multiply"}},
      {"extras" => {"behind" => true}},
      {"paint" => {"mix" => 0.2, "own_paint" => 0.5}},
      {"paint" => {"colour" => {"mode" => "fixed", "value" => "#ffffff"}}}
    ]
    kinds.each do |changes|
      preset = Preset[round_preset(size: 20).to_h.merge(changes)]
      strip = Vips::Image.new_from_buffer(S::Strip.png(preset), "")
      ground = Vips::Image.new_from_buffer(S::Ground.under(preset, 700, 120).to_png, "")
      strip, ground = [strip, ground].map { |image| image.has_alpha? ? image.flatten(background: 255) : image }
      expect((strip - ground).abs.avg).to be > 1
    end
  end
end

RSpec.describe Fobrel::Core::LruCache do
  it "keeps what was asked for last, up to its weight" do
    made = []
    recent = described_class.new(10, &:size)
    ask = ->(key, size) { recent.fetch(key) { made << key && "x" * size } }
    ask[:a, 4]
    ask[:b, 4]
    ask[:a, 4]
    ask[:c, 4]
    ask[:a, 4]
    ask[:b, 4]
    expect(made).to eq(%i[a b c b])
  end

  it "keeps nothing of what failed, and is safe between threads" do
    recent = described_class.new(3)
    expect { recent.fetch(:a) { raise "no" } }.to raise_error("no")
    expect(recent.fetch(:a) { 1 }).to eq(1)
    results = Array.new(8) { |i|
      Thread.new {
        Array.new(200) { |j|
          recent.fetch((i + j) % 5) {
            (i + j) % 5
          } == (i + j) % 5
        }
      }
    }.flat_map(&:value)
    expect(results).to all(be true)
  end
end

RSpec.describe Fobrel::Core::Tip::Scaling do
  it "keeps an even plane even and a ramp a ramp, up and down" do
    ramp = Numo::SFloat.zeros(8, 40) + Numo::SFloat.new(40).seq / 39
    [[20, 4], [80, 16], [40, 16], [20, 8], [13, 3]].each do |width, height|
      scaled = described_class.scale(ramp, width, height)
      expect(scaled.shape).to eq([height, width])
      expect(scaled.mean).to be_within(0.005).of(0.5)
      expect(scaled[0, true].to_a.each_cons(2)).to all(satisfy { |a, b| b >= a - 1e-6 })
    end
  end

  # Outside reference: libvips' shrink, which averages whole areas too.
  it "agrees with libvips where a pixel covers whole pixels" do
    chance = Random.new(4)
    values = Numo::SFloat.cast(Array.new(24) { Array.new(36) { chance.rand } })
    theirs = Vips::Image.new_from_memory_copy(values.to_binary, 36, 24, 1, :float).shrink(3, 4)
    expect(
      (described_class.scale(
        values,
        12,
        6
      ) - Numo::SFloat.from_binary(theirs.write_to_memory).reshape(6, 12)).abs.max
    ).to be < 1e-5
  end
end
