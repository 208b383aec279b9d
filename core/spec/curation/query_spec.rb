# frozen_string_literal: true

RSpec.describe Fobrel::Core::Curation::Query do
  def read(text) = described_class.parse(text)

  def terms(text) = read(text).terms.map { [_1.name, _1.values, _1.negated] }

  it "reads words first or after a semicolon, and terms between" do
    query = read("fog  Harbour category: washes, inks size: under 60; dense; not tag: night")
    expect(query.words).to eq(%w[fog Harbour dense])
    expect(query.terms.map(&:to_s)).to eq(["category: washes, inks", "size: under 60", "not tag: night"])
  end

  it "keeps values of several words, and terms of two" do
    expect(terms("used in: Act 1, the quay TRAIT: answers to tilt")).to eq(
      [
        ["used in", ["Act 1", "the quay"], false],
        ["trait", ["answers to tilt"], false]
      ]
    )
  end

  it "takes what stands in quotes as it is: commas, semicolons, colons, words that belong together" do
    query = read('set: "Act 1, the quay", Kit; "harbour fog" 9" not tag: "a: ""b""; c"')
    expect(
      [
        query.words,
        query.terms.map {
          [_1.name, _1.values, _1.negated]
        }
      ]
    ).to eq(
      [
        ["harbour fog", '9"'],
        [["set", ["Act 1, the quay", "Kit"], false], ["tag", ['a: "b"; c'], true]]
      ]
    )
    chance = Random.new(5)
    200.times do
      values = Array.new(1 + chance.rand(3)) {
        Array.new(1 + chance.rand(6)) {
          [
            "a",
            "tag: ",
            ",",
            ";",
            ":",
            '"',
            " ",
            "not ",
            "帆",
            "\uE000"
          ].sample(random: chance)
        }.join.tr("\uE000", "").strip
      }.reject(&:empty?)
      next if values.empty?
      again = read(described_class.new([], [described_class::Term.new("set", values, false)]).to_s)
      expect([again.words, again.terms.map(&:values)]).to eq([[], [values]])
    end
  end

  it "understands a size or a time whose colon was left out, and only those" do
    {
      "size under 20" => ["", "size: under 20"],
      "fog size 20 to 60px dense" => ["fog dense", "size: 20 to 60px"],
      "Size 40" => ["", "size: 40"],
      "ink changed this week" => ["ink", "changed: this week"],
      "category: inks size over 3" => ["", "category: inks|size: over 3"],
      "size matters" => ["size matters", ""],
      '"size" 20' => ["size 20", ""],
      "tag: size 20" => ["", "tag: size 20"],
      "resize 20" => ["resize 20", ""],
      "changed" => ["changed", ""]
    }.each do |line, (words, asked)|
      query = read(line)
      expect([query.words.join(" "), query.terms.join("|")]).to eq([words, asked]), line
    end
  end

  it "reads back what it writes" do
    [
      '"size" under 20',
      "fog",
      "tag: a, b",
      "fog bank; not size: 20 to 60; is: draft, favourite",
      "帆 tag: 海",
      ""
    ].each do |text|
      query = read(text)
      again = read(query.to_s)
      expect([again.words, again.terms]).to eq([query.words, query.terms])
    end
  end

  it "changes one term and leaves the others" do
    expect(read("fog tag: a size: 40").with("tag", %w[b c]).to_s).to eq("fog; size: 40; tag: b, c")
    expect(read("fog tag: a").with("tag", []).to_s).to eq("fog")
  end

  it "does not take part of a word for a term, nor a time of day" do
    expect(
      [
        read("vintage set at 9:30").words,
        terms("heritage tag:x")
      ]
    ).to eq([["vintage", "set", "at", "9:30"], [["tag", ["x"], false]]])
    expect { read("montage: x") }.to raise_error(described_class::Unclear, /no term “montage:”/)
  end

  {
    "colour: red" => /no term “colour:”.*explained under \?/,
    "tag:" => /“tag:” needs something after it/,
    "size: big" => /“size: big” is not a size/,
    "changed: yesterday" => /is not a time/,
    "changed: since 2026-02-31" => /not a valid date/,
    "is: lost" => /“is:” knows draft/,
    "x" * 600 => /longer than 500/
  }.each do |text, sentence|
    it "says what is unclear about #{text[0, 30]}" do
      expect { read(text) }.to raise_error(described_class::Unclear, sentence)
    end
  end

  it "lets a set fill itself from a search of 500 characters, not of 501, nor from none" do
    expect(described_class.automatic("x" * 500).words).to eq(["x" * 500])
    expect { described_class.automatic("x" * 501) }.to raise_error(described_class::Unclear, /longer than 500/)
    expect { described_class.automatic(" ; ") }.to raise_error(described_class::Unclear, /something to look for/)
  end

  it "understands sizes and times" do
    expect(%w[40 40px].map { described_class::Range.parse(_1) }.uniq).to eq([[40, 40]])
    expect(described_class::Range.parse("60 to 20")).to eq([20, 60])
    expect(described_class::Range.parse("under 60").last).to be < 60
    now = Time.utc(2026, 11, 25, 13)
    since = ->(text) { described_class::Since.parse(text, now:).map { _1&.strftime("%F") } }
    expect(
      [
        "today",
        "this week",
        "this month",
        "since 2026-11-01",
        "before 2026-01-05"
      ].map(&since)
    ).to eq(
      [
        ["2026-11-25", nil],
        ["2026-11-23", nil],
        ["2026-11-01", nil],
        ["2026-11-01", nil],
        [nil, "2026-01-05"]
      ]
    )
  end

  it "reads anything at all, or says what is unclear" do
    chance = Random.new(31)
    bits = [
      "tag:",
      "not ",
      ";",
      ",",
      "size:",
      "under",
      "20",
      " to ",
      "fog",
      "帆",
      "é",
      ":",
      "is:",
      "draft",
      "\u0000",
      "\xff",
      "%",
      "'",
      "used in:",
      "changed:",
      "since 2026-11-01",
      "  ",
      '"',
      '""',
      "\uE0000\uE001"
    ]
    500.times do
      text = Array.new(chance.rand(12)) { bits.sample(random: chance) }.join
      begin
        query = described_class.parse(text)
        expect(described_class.parse(query.to_s).to_s).to eq(query.to_s)
      rescue described_class::Unclear => e
        expect(e.message).to match(/\A[A-Z“]/)
      end
    end
  end

  it "folds case, accents and width" do
    expect(["Ängström", "ＦＯＧ", "e\u0301toile"].map { described_class.fold(_1) }).to eq(%w[angstrom fog etoile])
  end
end

RSpec.describe Fobrel::Core::Curation::Renaming do
  def names(rules, list = ["Harbour fog", "fog BANK 2"], tags = [["sea"], []])
    described_class.new(rules).names(list, tags)
  end

  it "finds and replaces, sets case, puts before and behind, numbers" do
    expect(names({"find" => "FOG", "replace" => "mist"})).to eq(["Harbour mist", "mist BANK 2"])
    expect(names({"find" => "(f", "replace" => "\\0"}, ["a (fog"])).to eq(["a \\0og"])
    expect(
      %w[lower upper title sentence].map {
        names({"case" => _1}).last
      }
    ).to eq(["fog bank 2", "FOG BANK 2", "Fog BANK 2", "Fog bank 2"])
    expect(names({"tag" => true, "prefix" => "_", "suffix" => "!"})).to eq(["_sea Harbour fog!", "_fog BANK 2!"])
    expect(names({"number" => {"start" => 9, "width" => 3}})).to eq(["Harbour fog 009", "fog BANK 2 010"])
  end

  it "marks what is in the way" do
    plan = described_class.new("find" => "fog", "replace" => "").plan(["fog", "Fog a", "fog A", "fog sea"], [], ["SEA"])
    expect(plan.map { [_1.to, _1.clash] }).to eq([["", "empty"], ["a", "twice"], ["A", "twice"], ["sea", "taken"]])
    expect(described_class.new("suffix" => "x" * 200).plan(["a"], [], []).first.clash).to eq("too long")
  end

  it "refuses rules that cannot be followed" do
    [
      {"case" => "wavy"},
      {"number" => {"start" => "1", "width" => 2}},
      {"number" => {"start" => 1, "width" => 99}},
      {"number" => 3}
    ].each do |rules|
      expect { described_class.new(rules) }.to raise_error(described_class::Unclear)
    end
  end
end

RSpec.describe Fobrel::Core::Curation::Query, "changed at a click" do
  def toggled(line, *value) = described_class.parse(line).toggled(*value).to_s

  it "gains and loses a value, in quotes where that needs them" do
    expect(toggled("fog", "tag", "sea")).to eq("fog; tag: sea")
    expect(toggled("fog; tag: sea", "tag", "night")).to eq("fog; tag: sea, night")
    expect(toggled("fog; tag: sea, night", "tag", "Sea")).to eq("fog; tag: night")
    expect(toggled("tag: night", "tag", "night")).to eq("")
    expect(toggled("not tag: sea", "tag", "sea")).to eq("not tag: sea; tag: sea")
    expect(toggled("fog", "set", "Act 1, the quay")).to eq('fog; set: "Act 1, the quay"')
    expect(toggled('fog; set: "Act 1, the quay"', "set", 'Kit 9"')).to eq('fog; set: "Act 1, the quay", "Kit 9"""')
    expect(toggled('fog; set: "Act 1, the quay"', "set", "act 1, the quay")).to eq("fog")
  end

  it "loses one of its terms" do
    query = described_class.parse("fog; tag: sea, night; not category: washes")
    expect(query.terms.map { |term| query.without(term).to_s }).to eq(
      ["fog; not category: washes", "fog; tag: sea, night"]
    )
  end

  it "takes a size as one speaks of it, and leaves a term's own values alone" do
    lines = {
      "dry about 40" => ["dry", "size: about 40"],
      "under 60 fog" => ["fog", "size: under 60"],
      "fog 40 px" => ["fog", "size: 40 px"],
      "20 to 60 px" => ["", "size: 20 to 60 px"],
      "size: 20 to 60 px" => ["", "size: 20 to 60 px"],
      "size: under 20, over 100" => ["", "size: under 20, over 100"],
      "dry 40" => ["dry 40", ""],
      '"about" 40' => ["about 40", ""]
    }
    lines.each do |line, (words, terms)|
      query = described_class.parse(line)
      expect([line, query.words.join(" "), query.terms.join]).to eq([line, words, terms])
      again = described_class.parse(query.to_s)
      expect([again.words, again.terms]).to eq([query.words, query.terms])
    end
    expect(described_class::Range.parse("about 40")).to eq([30.0, 50.0])
    sizes = ["about 40", "40px", "under 60", "over 20 px", "60 to 20", "about 9"]
    labels = sizes.map { described_class::Range.label(_1) }
    expect(labels).to eq(["30–50 px", "40 px", "under 60 px", "over 20 px", "20–60 px", "6.8–11.3 px"])
  end
end
