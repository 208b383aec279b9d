# frozen_string_literal: true

RSpec.describe Fobrel::Core::Curation::Numbering do
  # Common practice, no source: the next variation of a name takes the next number.
  it "takes the next number" do
    names = ["Fog", "Fog 2", "fog 7", "Foghorn 9"]
    expect(
      [["Fog", names], ["Fog 2", names], ["Rain", ["Rain"]], ["Rain", []], ["Fog (wet) 3", ["Fog (wet) 3"]]].map {
        described_class.next_name(*_1)
      }
    )
      .to eq(["Fog 8", "Fog 8", "Rain 2", "Rain 2", "Fog (wet) 4"])
  end

  it "keeps the width of a number that begins with a nought" do
    expect(
      [["Fog 04", ["Fog 04"]], ["Fog 09", ["Fog 09"]], ["Fog 099", ["Fog 099"]]].map {
        described_class.next_name(*_1)
      }
    ).to eq(["Fog 05", "Fog 10", "Fog 100"])
  end
end
