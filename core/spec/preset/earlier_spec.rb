# frozen_string_literal: true

require "spec_helper"

RSpec.describe Fobrel::Core::Preset::Earlier do
  def written(own = {"own_paint" => 0.4})
    {
      "format" => "fobrel.preset/1",
      "id" => "0b0e3a52-6a0f-4c3d-9a50-0f1d8f2f6f11",
      "name" => "Wet thumb",
      "method" => "smear",
      "mark" => {"tip" => {"kind" => "round"}, "size" => {"base" => 20}},
      "pigment" => {"opacity" => 1, "mix" => 0.3, **own}
    }
  end

  let(:earlier) { written({"charge" => 0.4}) }

  it "reads both writings as one and the same brush, and writes the new one" do
    presets = [Preset[earlier], Preset.restore(earlier), Preset.parse(JSON.generate(earlier)), Preset[written]]
    expect(
      presets.map {
        [_1["pigment", "own_paint"], _1.fingerprint, _1.to_h]
      }.uniq
    ).to eq([[0.4, Preset[written].fingerprint, written]])
    expect(Preset[written({"charge" => 0.9, "own_paint" => 0.4})]).to eq(Preset[written])
    expect(presets.first.unknown).to eq([])
  end

  it "knows a brush by the fingerprint of either writing, and by no other" do
    was = Preset.fingerprint_of(earlier)
    expect([Preset[earlier].known_as?(was), Preset[earlier].known_as?(Preset[written].fingerprint)]).to eq([true, true])
    expect([Preset[written].known_as?(was), Preset[earlier].known_as?("0" * 64)]).to eq([false, false])
  end

  it "holds the setting to its limits under its earlier name too" do
    expect { Preset[written({"charge" => 7})] }.to raise_error(Preset::Invalid, /own_paint|Own paint/)
  end

  it "opens a package that was written before" do
    new = Preset[written]
    print = Preset.fingerprint_of(earlier)
    payload = {
      "presets/#{new.id}.json" => JSON.generate(earlier),
      "bundle.json" => JSON.generate(
        {
          "presets" => [
            {
              "id" => new.id,
              "edition" => 3,
              "fingerprint" => print
            }
          ]
        }
      )
    }
    expect(Fobrel::Core::Package::Reader.read_payload(payload).presets).to eq([new])
    payload["bundle.json"] = JSON.generate({"presets" => [{"id" => new.id, "edition" => 3, "fingerprint" => "0" * 64}]})
    expect {
      Fobrel::Core::Package::Reader.read_payload(payload)
    }.to raise_error(
      Fobrel::Core::Package::Reader::Invalid,
      /not the preset that was packed/
    )
  end

  it "lets an export template say either name" do
    recipe = Fobrel::Core::Package::Recipe["name" => "Paint",
      "scope" => "set",
      "file" => "paint.txt",
      "body" => "{% for preset in presets %}{{ preset.pigment.charge }} {{ preset.pigment.own_paint }}{% endfor %}"]
    expect(recipe.write([Preset[earlier]]).values).to eq(["0.4 0.4"])
  end
end
