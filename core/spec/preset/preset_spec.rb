# frozen_string_literal: true

RSpec.describe Fobrel::Core::Preset::Preset do
  let(:document) do
    {
      "format" => "fobrel.preset/1",
      "id" => "0b0e3a52-6a0f-4c3d-9a50-0f1d8f2f6f11",
      "name" => "Harbour fog",
      "method" => "dabs",
      "tip" => {"form" => {"kind" => "round", "hardness" => 0.8}, "size" => {"base" => 40}}
    }
  end

  # Outside reference: the worked example of RFC 8785, section 3.2.3 (recalled from memory).
  it "writes the canonical form of RFC 8785" do
    given = JSON.parse(
      '{"numbers":[333333333.33333329,1E30,4.50,2e-3,0.000000000000000000000000001],' \
        '"string":"\u20ac$\u000F\u000aA\'\u0042\u0022\u005c\\\\\"\/","literals":[null,true,false]}'
    )
    expect(Fobrel::Core::Canonical.json(given)).to eq(
      '{"literals":[null,true,false],"numbers":[333333333.3333333,1e+30,4.5,0.002,1e-2' \
        '7],"string":"€$\u000f\nA\'B\"\\\\' \
        '\\\\\"/"}'
    )
  end

  it "takes the fingerprint over the canonical form without id, name and about" do
    expected = Digest::SHA256.hexdigest(
      '{"format":"fobrel.preset/1","method":"dabs","tip":{"form":{"hardness":0.8,"kind":"round"},' \
        '"size":{"base":40}}}'
    )
    expect(described_class[document].fingerprint).to eq(expected)
  end

  it "has one fingerprint for what paints the same, whatever it is called and however it is written" do
    other = document.merge("name" => "Fog", "id" => SecureRandom.uuid, "about" => {"notes" => "x"}).to_a.reverse.to_h
    other["tip"] = {"size" => {"base" => 40.0}, "form" => {"hardness" => 0.80, "kind" => "round"}}
    expect(described_class[other].fingerprint).to eq(described_class[document].fingerprint)
    changed = described_class[document].with("stroke", {"spacing" => 0.2})
    expect(changed.fingerprint).not_to eq(described_class[document].fingerprint)
  end

  it "reads defaults where the document is silent, and hands the document back untouched" do
    preset = described_class[document]
    expect(
      [
        preset["stroke", "spacing"],
        preset["paint", "opacity"],
        preset["tip", "size", "minimum"],
        preset["grain"]
      ]
    ).to eq([0.1, 1, 1, nil])
    expect(preset.to_h).to eq(document)
  end

  it "keeps settings it does not know, and names them" do
    odd = document.merge("stroke" => {"wobble" => 3}, "future" => {"a" => [1]})
    preset = described_class[odd]
    expect(preset.to_h).to eq(odd)
    expect(preset.unknown).to eq(%w[stroke.wobble future])
  end

  it "names every picture it needs, once" do
    asset = "sha256:#{"a" * 64}"
    grain = "sha256:#{"b" * 64}"
    preset = described_class[document.merge(
      "tip" => {
        "form" => {"kind" => "picture", "frames" => [asset, asset]},
        "size" => {"base" => 1}
      },
      "grain" => {"asset" => grain}
    )]
    expect(preset.needs).to eq([asset, grain])
  end

  {
    "a size that is a text" => [
      ->(d) {
        d["tip"]["size"]["base"] = "big"
      },
      "tip.size.base must be a number, not “big”"
],
    "a size beyond all measure" => [->(d) { d["tip"]["size"]["base"] = 1e9 }, "tip.size.base must be at most 5000"],
    "no tip" => [->(d) { d.delete("tip") }, "The preset lacks tip"],
    "a picture tip without frames" => [->(d) { d["tip"]["form"] = {"kind" => "picture"} }, "tip.form lacks frames"],
    "an empty reel" => [
      ->(d) {
        d["tip"]["form"] = {"kind" => "picture", "frames" => []}
      },
      "tip.form.frames needs at least 1 entries"
],
    "a blend mode nobody knows" => [->(d) { d["paint"] = {"blend" => "glow"} }, "paint.blend must be one of"],
    "a curve that runs back" => [
      ->(d) {
        d["response"] = [{"drives" => "size", "by" => "pressure", "curve" => [[0.5, 0], [0.5, 1]]}]
      },
      "response 1: the curve's points must run from left to right"
],
    "least above most" => [
      ->(d) {
        d["tip"]["size"].merge!("minimum" => 50, "maximum" => 10)
      },
      "The minimum size, 50 px, is above the maximum size, 10 px."
],
    "a fixed colour without one" => [
      ->(d) {
        d["paint"] = {"colour" => {"mode" => "fixed"}}
      },
      "paint.colour lacks value"
    ]
  }.each do |what, (change, sentence)|
    it "refuses #{what} in words" do
      change.call(document)
      expect {
        described_class[document]
      }.to raise_error(
        described_class::Invalid,
        /“Harbour fog” cannot be used: .*#{Regexp.escape(sentence)}/
      )
    end
  end

  ["", "{", "[]", "null", "{\"a\":NaN}", "[" * 100 + "]" * 100, "\xFF\xFE{}", "{\"format\": 1e999}"].each do |text|
    it "refuses #{text[0, 20].dump} as a file" do
      expect { described_class.parse(text) }.to raise_error(described_class::Invalid)
    end
  end

  it "accepts the full example of docs/formats.md, and all it says is known" do
    example = File.read(File.expand_path("../../../docs/formats.md", __dir__))[/```json\n(\{.*?\n\})\n```/m, 1].gsub(
      "sha256:…", "sha256:#{"0" * 64}"
    )
    expect(described_class.parse(example).unknown).to eq([])
  end
end
