# frozen_string_literal: true

require "nokogiri"

RSpec.describe Fobrel::Core::Package::ExportTemplate do
  let(:fog) {
    Preset.build(
      "Fog & \"rain\" <1>",
      {
        "tip" => {"form" => {"kind" => "round", "hardness" => 0.4}, "size" => {"base" => 30}, "angle" => 90},
        "paint" => {"flow" => 0.7},
        "about" => {"tags" => ["a b", "=sea"], "notes" => "one\ntwo"}
      }
    )
  }
  let(:line) { Preset.build("Line", {"tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 4}}}) }

  def export_template(body, scope: "each", file: "{{ preset.name }}.txt")
    described_class["name" => "Own", "scope" => scope, "file" => file, "body" => body]
  end

  def written(body, presets = [fog], **how) = export_template(body, **how).write(presets, words: {"name" => "Kit"})

  # 300 dpi: 300 px are one inch, 25.4 mm (ISO 31-1's inch); degrees and radians after ISO 80000-3.
  it "turns units into others" do
    {
      "{{ preset.tip.size.base | mm: 300 }}" => "2.54",
      "{{ 300 | inches: 300 }}" => "1",
      "{{ preset.paint.flow | percent }}" => "70",
      "{{ 0.5 | between: 0, 255 }}" => "127.5",
      "{{ 180 | radians }}" => "3.141593",
      "{{ 90 | turns }}" => "0.25",
      "{{ preset.tip.angle | clockwise }}" => "270",
      "{{ 0 | clockwise }}" => "0",
      "{{ 41 | radius }}" => "20.5",
      "{{ '#336699' | rgb }}" => "51 102 153",
      "{{ 0.07 | percent }}" => "7"
    }.each do |body, text|
      expect([body, written(body).values]).to eq([body, [text]])
    end
  end

  it "writes each in a file of its own, or all in one, under names every system can keep" do
    expect(
      written(
        "{{ preset.number }}",
        [fog, line, line]
      ).to_a
    ).to eq([["Fog - -rain- -1.txt", "1"], ["Line.txt", "2"], ["Line (2).txt", "3"]])
    expect(
      written(
        "{% for preset in presets %}{{ preset.name }};{% endfor %}",
        [fog, line],
        scope: "set",
        file: "{{ set.name }}.csv"
      )
    ).to eq("Kit.csv" => "Fog & \"rain\" <1>;Line;")
    expect(written("x", file: "..").keys).to eq(["brush"])
  end

  it "ships examples whose texts other programs read" do
    csv, ini, xml, card = described_class.examples.map {
      _1.write([fog, line], words: {"name" => "Kit", "author" => "A & B"}).values
    }
    table = CSV.parse(csv.first, headers: true)
    expect(
      table.map {
        _1.to_h.values_at(
          "name",
          "size px",
          "flow %",
          "tags"
        )
      }
    ).to eq(
      [
        ["Fog & \"rain\" <1>", "30", "70", "a b, =sea"],
        ["Line", "4", "100", ""]
      ]
    ).or eq([["Fog & \"rain\" <1>", "30", "70", "a b, =sea"], ["Line", "4", "100", nil]])
    expect(ini.first).to include("[brush]\nname=Fog & \"rain\" <1>\n", "flow=179\n").or include("flow=178\n")
    document = Nokogiri::XML(xml.first, &:strict)
    expect(document.css("brush").map { _1["name"] }).to eq([fog.name, line.name])
    expect(document.css("tag").map(&:text)).to eq(["a b", "=sea"])
    expect(card.first).to include("| Flow | 70 % |")
  end

  it "keeps text from breaking out of its place" do
    texts = {
      "csv" => "=1+1",
      "xml" => "</a>\u0001&\"'",
      "ini" => "a\n[b]\nc=d",
      "markdown" => "# *a* [b](c)"
    }.to_h { |filter, text|
      [filter, Preset[line.to_h.merge("name" => text)]]
    }
    out = texts.to_h { |filter, preset|
      [filter, written("{{ preset.name | #{filter} }}", [preset], file: "x").values.first]
    }
    expect(out).to eq(
      "csv" => "'=1+1",
      "xml" => "&lt;/a&gt; &amp;&quot;&apos;",
      "ini" => "a \\[b\\] c\\=d",
      "markdown" => "\\# \\*a\\* \\[b\\](c)"
    )
    expect(
      %w[1.a -a a.b-c!].map { |name|
        written(
          "{{ preset.name | markdown }}",
          [Preset[line.to_h.merge("name" => name)]],
          file: "x"
        ).values.first
      }
    ).to eq(["1\\.a", "\\-a", "a.b-c!"])
  end

  it "can read what it is given and write text, and nothing else" do
    expect(written("{{ preset.name.class }}{{ preset.to_s }}{{ presets.first.instance_variables }}").values).to eq([""])
    {
      "{% include 'x' %}" => /In line 1: an export template stands alone/,
      "{{ 1 | system }}" => /no filter “system”/,
      "{% for a in (1..9999) %}{% for b in (1..9999) %}x{% endfor %}{% endfor %}" => /more than it may/,
      "{% assign a = 'xxxxxxxxxx' %}{% for i in (1..40) %}{% assign a = a | append: a %}{% endfor %}" =>
        /more than it may/,
      "{{ 'a' | percent }}" => /“a” is not a number/,
      "{{ 3 | mm: 0 }}" => /more than 0/
    }.each do |body, why|
      expect { written(body) }.to raise_error(described_class::Invalid, why)
    end
  end

  it "says what is wrong in words for those who write one, with the line" do
    {
      "a\n{{ preset.name" => /In line 2: a “\{\{” is not closed/,
      "{% for a in presets %}x" => /In line 1: “\{% for … %\}” is begun and never ended/,
      "{% fi %}" => /no “\{% fi %\}”/,
      "{% if a %}{% endfor %}" => /does not end “\{% if %\}”. Write “\{% endif %\}”/,
      "{{ a b }}" => /cannot be understood/,
      "{{ 1 | persent }}" => /Did you mean “percent”/,
      "{{ 1 | divided_by: 0 }}" => /divided by 0/
    }.each do |body, said|
      expect { written(body) }.to raise_error(described_class::Invalid, said)
    end
    expect { written("{{ preset.name | upcase: 1, 2, 3 }}") }.to raise_error(described_class::Invalid) { |e|
      expect(e.message).not_to match(/Liquid|regexp|end_of_string|argument/i)
    }
  end

  it "warns of names that are not known, with what was meant; not of what a brush merely lacks" do
    unknown = ->(body) { described_class[{"name" => "n", "scope" => "each", "file" => "f", "body" => body}].unknown }
    expect(unknown["x\n{{ preset.tip.size.bse }}{% assign k = preset.tgs %}{{ k }}"]).to match(
      [
        /In line 2: “bse” is not known here.* Did you mean “base”/, /“tgs”.*“tags”/
      ]
    )
    expect(
      unknown["{{ preset.grain.depth }}{% for answer in preset.response %}{{ answer.drives }}{{ forloop.index }}{% " \
        "endfor %}{% capture w %}x{% endcapture %}{{ w }}"]
    ).to eq([])
    expect(described_class.examples.flat_map(&:unknown)).to eq([])
  end

  it "refuses what cannot be read before it is kept" do
    {"body" => "{% if %}", "file" => "a/b", "scope" => "all", "name" => " "}.each do |key, value|
      expect {
        described_class[{
          "name" => "n",
          "scope" => "each",
          "file" => "f",
          "body" => "b"
        }.merge(key => value)]
      }.to raise_error(described_class::Invalid)
    end
    expect { described_class["name" => 3] }.to raise_error(described_class::Invalid)
    expect { export_template("x" * 70_000) }.to raise_error(described_class::Invalid, /64 KB/)
  end
end
