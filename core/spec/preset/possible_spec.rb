# frozen_string_literal: true

require "spec_helper"

RSpec.describe Fobrel::Core::Preset::Possible do
  let(:fog) { Preset.restore(Fobrel::Core::Preset::Schema.fill(round_preset(size: 40).to_h)) }

  # The whole document with some settings at other values.
  def wish(changes)
    changes.inject(fog.to_h) { |now, (path, value)| put(now, path.split("."), value) }
  end

  def put(hash, (key, *rest), value) = hash.merge(key => rest.empty? ? value : put(hash[key], rest, value))

  it "keeps what is possible beside one impossible setting, and says which stays" do
    found = described_class.of(
      wish(
        "tip.size.minimum" => 50,
        "tip.size.maximum" => 10,
        "paint.flow" => 0.2,
        "stroke.marks_per_step" => 99
      ),
      on: fog
    )
    expect(found.preset["paint", "flow"]).to eq(0.2)
    expect(found.preset["tip", "size"].values_at("minimum", "maximum")).to eq([50, 5000])
    expect(found.held).to eq(
      [
        "Maximum size 5000 px → 10 px is not possible, so Maximum size stays as it was.",
        "Marks per step 1 → 99 is not possible, so Marks per step stays as it was."
      ]
    )
  end

  it "takes settings that are possible only together, in whatever order they stand" do
    narrow = described_class.of(wish("tip.size.minimum" => 5, "tip.size.maximum" => 10), on: fog).preset
    found = described_class.of(
      narrow.to_h.merge(
        "tip" => narrow["tip"].merge("size" => {"base" => 40, "minimum" => 60, "maximum" => 90}),
        "stroke" => {"marks_per_step" => 0}
      ),
      on: narrow
    )
    expect(found.preset["tip", "size"].values_at("minimum", "maximum")).to eq([60, 90])
    expect(found.held.size).to eq(1)
  end

  it "takes a possible wish as it is, and refuses what is no preset" do
    expect(described_class.of(wish("tip.size.base" => 7), on: fog).held).to eq([])
    [nil, 7, {}, wish("response" => 5), wish("response" => [1]), wish("tip" => "big")].each do |nonsense|
      expect { described_class.of(nonsense, on: fog) }.to raise_error(Preset::Invalid)
    end
    odd = wish("response" => [{"drives" => "luck", "by" => "pressure"}], "paint.flow" => 0.5)
    expect(described_class.of(odd, on: fog).preset["paint", "flow"]).to eq(0.5)
  end
end
