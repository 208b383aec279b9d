# frozen_string_literal: true

RSpec.describe Fobrel::Core::Package::Table do
  let(:rich) do
    Preset.build(
      "=Rope, \"long\"",
      {
        "tip" => {
          "form" => {
            "kind" => "picture",
            "frames" => [
              "sha256:#{"a" * 64}",
              "sha256:#{"b" * 64}"
],
            "turn" => ["pressure", "tilt"],
            "columns" => 2
          },
          "size" => {"base" => 20.5},
          "hard_pixels" => true
        },
        "response" => [by_pressure("size", 0.2, 1)],
        "paint" => {"colour" => {"mode" => "fixed", "value" => "#336699"}},
        "about" => {"notes" => "[see] the quay\nand more", "tags" => ["two words", "sea"]}
      }
    )
  end

  it "writes a column for each setting that any brush has" do
    table = CSV.parse(described_class.write([rich, round_preset(size: 7, hardness: 0.5)]), headers: true)
    expect(
      table.map {
        _1.to_h.values_at(
          "name",
          "tip.size.base",
          "tip.form.hardness",
          "tip.form.colours"
        )
      }
    ).to eq([["'=Rope, \"long\"", "20.5", nil, "tint"], ["Round", "7", "0.5", nil]])
    expect(JSON.parse(table[0]["response"]).first.values_at("drives", "to")).to eq(["size", 1])
  end

  it "reads what it wrote: the same brushes, to the fingerprint" do
    brushes = [rich, round_preset(size: 7, hardness: 0.5, response: [by_pressure("opacity", 0, 1)])]
    back = described_class.read(described_class.write(brushes)).map { described_class.preset(_1) }
    expect(back.map(&:fingerprint)).to eq(brushes.map(&:fingerprint))
    expect(back.map { [_1.name, _1.id, _1["about"]] }).to eq(brushes.map { [_1.name, _1.id, _1["about"]] })
  end

  it "reads what a table program of another country writes, and a handful of columns" do
    text = "\uFEFFname;tip.form.kind;tip.form.hardness;tip.size.base;tip.hard_pixels\r\nNebel;round;0,4;12;TRUE\r\n"
    expect(described_class.preset(described_class.read(text).first)["tip"]).to include(
      "hard_pixels" => true,
      "size" => include("base" => 12),
      "form" => include("hardness" => 0.4)
    )
  end

  it "refuses what is no such table, in a sentence" do
    {
      "a,b\n1,2\n" => /no column “name”/,
      "name\n\"x" => /not a CSV table/,
      "\xFF\xFE".b => /not UTF-8/
    }.each do |text, why|
      expect { described_class.read(text, name: "t.csv") }.to raise_error(described_class::Unreadable, why)
    end
    expect(described_class.read("name,name.x.y,..,mark.a.b.c.d.e.f.g.h\nfog,1,2,3\n").first["name"]).to eq("fog")
  end
end
