# frozen_string_literal: true

RSpec.describe Fobrel::Core::Curation::Suggestions do
  let(:known) do
    {"tag" => %w[lineart night sea], "category" => ["Washes"], "size" => ["under 60"], "used in" => ["nothing"]}
  end

  it "completes terms by their beginning, and values after the colon" do
    lines = ["fog cat", "tag: n", "fog tag: sea, nig", "size: under 60; was", "fog used in:", "", "n"]
    expect(lines.map { |line| described_class.of(line, known) }).to eq(
      [
        ["fog category: "],
        ["tag: lineart", "tag: night"],
        ["fog tag: sea, night"],
        ["size: under 60; category: Washes"],
        ["fog used in: nothing"],
        [],
        []
      ]
    )
  end

  it "proposes a value that may have been meant where there is none like it" do
    expect(["tag: see", "fog tag: nihgt", "tag: sea", "tag: xyz"].map { described_class.of(_1, known) }).to eq(
      [["tag: sea"], ["fog tag: night"], [], []]
    )
  end

  it "proposes at most eight, of values and of what a word may begin" do
    many = {"tag" => Array.new(20) { |i| "sea #{i}" }}
    eight = many["tag"].first(8).map { |name| "tag: #{name}" }
    expect([described_class.of("tag: se", many), described_class.of("se", many)]).to eq([eight, eight])
  end

  it "keeps what stands in quotes together, and closes a quote that is being typed" do
    sets = {"tag" => [], "set" => ["Act 1, the quay"]}
    expect(described_class.of('tag: "a; b"; set: act', sets)).to eq(['tag: "a; b"; set: "Act 1, the quay"'])
    expect(described_class.of('set: "Act 1, t', sets)).to eq(['set: "Act 1, the quay"'])
  end
end
