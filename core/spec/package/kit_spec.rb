# frozen_string_literal: true

RSpec.describe Fobrel::Core::Package::Kit do
  let(:mark) { Fobrel::Core::Tip::Cover[Numo::SFloat.new(20, 20).fill(0).tap { _1[5...15, 5...15] = 1 }].to_png }
  let(:grain) { grey_png(Array.new(8) { |y| Array.new(8) { |x| (x + y).even? ? 0 : 255 } }) }
  let(:shape) { '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><circle cx="5" cy="5" r="4"/></svg>' }
  let(:assets) { [mark, grain, shape].to_h { [sha(_1), _1] } }

  def picture(name, **groups)
    Preset.build(
      name,
      {
        "tip" => {
          "form" => {"kind" => "picture", "frames" => [sha(mark), sha(mark)]},
          "size" => {"base" => 20}
        }
      }.merge(groups.transform_keys(&:to_s))
    )
  end

  def files(zip)
    Zip::File.open_buffer(StringIO.new(zip)).to_h { [_1.name.dup.force_encoding("UTF-8"), _1.get_input_stream.read] }
  end

  it "holds each tip black on white and on nothing, the grain, the shape, the strip and all settings" do
    brush = picture("Quay: stamp?", grain: {"asset" => sha(grain)})
    vector = Preset.build(
      "Leaf",
      {"tip" => {"form" => {"kind" => "shape", "asset" => sha(shape)}, "size" => {"base" => 9}}}
    )
    got = files(described_class.zip([brush, vector], assets:, strips: {brush.id => "strip"}))
    expect(got.keys).to match_array(
      [
        "settings.csv",
        "settings.json",
        "Quay- stamp/strip.png",
        "Quay- stamp/tip-1-on-white.png",
        "Quay- stamp/tip-1.png",
        "Quay- stamp/tip-2-on-white.png",
        "Quay- stamp/tip-2.png",
        "Quay- stamp/grain.png",
        "Leaf/shape.svg"
      ]
    )
    white, clear = ["Quay- stamp/tip-1-on-white.png", "Quay- stamp/tip-1.png"].map {
      Vips::Image.new_from_buffer(got[_1], "")
    }
    expect(
      [
        white.getpoint(10, 10),
        white.getpoint(0, 0),
        clear.getpoint(10, 10),
        clear.getpoint(0, 0)
      ]
    ).to eq([[0], [255], [0, 0, 0, 255], [0, 0, 0, 0]])
    expect(JSON.parse(got["settings.json"])).to eq([brush.to_h, vector.to_h])
    expect(got["Leaf/shape.svg"]).to eq(shape)
  end

  it "gives no brush a folder that leaves its place, or another's; a cell is never a formula" do
    names = ["../../etc", "fog", "Fog", "..", "CON:", "/", "帆", "a" * 150, "=1+1"]
    got = files(described_class.zip(names.map { picture(_1) }, assets:))
    folders = got.keys.filter_map { _1[%r{\A(.*)/tip-1\.png\z}, 1] }
    expect(folders.size).to eq(names.size)
    expect(folders.uniq(&:downcase).size).to eq(names.size)
    expect(folders).to all(match(/\A[[:alnum:]][[:alnum:] _()-]{0,70}\z/))
    expect(CSV.parse(got["settings.csv"], headers: true).map { _1["name"] }).to include("'=1+1")
  end

  it "gives the same bytes for the same brushes, and names a need that is missing" do
    brush = picture("Fog")
    expect(described_class.zip([brush], assets:)).to eq(described_class.zip([Preset.parse(brush.canonical)], assets:))
    expect {
      described_class.zip([brush], assets: {})
    }.to raise_error(Fobrel::Core::Preset::MissingNeed, /“Fog” needs the picture/)
  end

  # A round tip's cover is worked out by hand: full inside the hard core, half in the middle of the
  # edge (1 − smoothstep(½) = ½), nothing outside the rim.
  it "paints computed tips too, and tells of tags" do
    brush = Preset.build(
      "Soft",
      {
        "tip" => {"form" => {"kind" => "round", "hardness" => 0.5}, "size" => {"base" => 9}},
        "about" => {"tags" => %w[sea line]}
      }
    )
    got = files(described_class.zip([brush], assets: {}))
    white, clear = %w[Soft/tip-on-white.png Soft/tip.png].map { Vips::Image.new_from_buffer(got.fetch(_1), "") }
    expect(
      [
        white.width,
        white.height,
        white.getpoint(256, 256),
        white.getpoint(0, 0),
        white.getpoint(256 + 100, 256)
      ]
    ).to eq([512, 512, [0], [255], [0]])
    expect(white.getpoint(256 + 192, 256).first).to be_between(126, 130)
    expect([clear.getpoint(256, 256), clear.getpoint(0, 0)]).to eq([[0, 0, 0, 255], [0, 0, 0, 0]])
    expect(CSV.parse(got["settings.csv"], headers: true).first["about.tags"]).to eq('["sea","line"]')
  end
end
