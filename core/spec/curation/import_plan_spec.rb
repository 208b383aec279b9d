# frozen_string_literal: true

RSpec.describe Fobrel::Core::Curation::ImportPlan do
  def here(key, name, print, **more)
    described_class::Here.new(
      key:,
      name:,
      document_id: "id-#{key}",
      fingerprint: print,
      version: 2,
      altered: false,
      locked: false,
      hidden: false,
      past: [],
      **more
    )
  end

  def coming(key, name, print, **more)
    described_class::Coming.new(
      key:,
      name:,
      document_id: "new-#{key}",
      fingerprint: print,
      version: 1,
      kind: "preset",
      **more
    )
  end

  def rows(list, library, **choices)
    described_class.new(coming: list, here: library, choices: choices.transform_keys(&:to_s)).rows
  end

  def told(...) = rows(...).map { [_1.state, _1.decision, _1.name] }

  it "knows each thing by its content first, then by its identity, then by its name" do
    library = [
      here(1, "Fog", "a", past: ["a0"]),
      here(2, "Rope", "b", altered: true),
      here(3, "Kelp", "c", hidden: true)
    ]
    things = [
      coming(1, "Nebel", "a"),
      coming(2, "Fog", "a0", document_id: "id-1"),
      coming(3, "Fog", "x", document_id: "id-1", version: 3),
      coming(4, "Fog", "y", document_id: "id-1", version: 1),
      coming(5, "Rope", "z", document_id: "id-2", version: 3),
      coming(6, "rope", "w"),
      coming(7, "Kelp", "c"),
      coming(8, "Kelp", "k"),
      coming(9, "Sail", "s"),
      coming(10, "Sail", "t")
    ]
    expect(
      told(
        things,
        library
      )
    ).to eq(
      [
        ["identical", "leave", "Nebel"],
        ["older", "leave", "Fog"],
        ["newer", "version", "Fog"],
        ["older", "leave", "Fog"],
        ["apart", "both", "Rope 2"],
        ["named", "both", "rope 3"],
        ["hidden", "leave", "Kelp"],
        ["new", "take", "Kelp 2"],
        ["new", "take", "Sail"],
        ["new", "take", "Sail 2"]
      ]
    )
  end

  it "means, of several that paint alike, the one that it is, then the one of its name, and one that is shown" do
    library = [here(1, "Fog", "a", hidden: true), here(2, "Mist", "a"), here(3, "Haze", "a")]
    met = [coming(1, "Fog", "a"), coming(2, "x", "a", document_id: "id-2"), coming(3, "haze", "a")].map { |one|
      rows([one], library).first
    }
    expect(met.map { [_1.state, _1.here.key] }).to eq([["identical", 2], ["identical", 2], ["identical", 3]])
  end

  it "takes decisions for one, or for all of one kind, where the state allows them" do
    library = [here(1, "Fog", "a"), here(2, "Rope", "b")]
    things = [coming(1, "Fog", "x"), coming(2, "Rope", "y"), coming(3, "Kelp", "z")]
    expect(
      told(
        things,
        library,
        all: {"named" => "replace"},
        items: {"2" => "version", "3" => "replace"}
      )
    ).to eq(
      [
        ["named", "replace", "Fog"],
        ["named", "version", "Rope"],
        ["new", "take", "Kelp"]
      ]
    )
    expect(told(things, library, items: {"1" => "leave", "3" => "leave"}).map { _1[1] }).to eq(%w[leave both leave])
  end

  it "changes nothing that is locked, and meets each brush once" do
    expect(rows([coming(1, "Fog", "x")], [here(1, "Fog", "a", locked: true)]).first.choices).to eq(%w[both leave])
    expect(
      rows(
        [coming(1, "Fog", "a0")],
        [here(1, "Fog", "a", hidden: true, past: ["a0"])]
      ).first.choices
    ).to eq(%w[leave both])
    twice = [coming(1, "Fog", "x"), coming(2, "Fog", "y")]
    expect(
      told(
        twice,
        [here(1, "Fog", "a")],
        all: {"named" => "version"}
      )
    ).to eq([["named", "version", "Fog"], ["named", "both", "Fog 2"]])
  end

  it "keeps apart what a backup kept apart, but not what is here already" do
    things = [
      coming(1, "Fog", "x", apart: true),
      coming(2, "Mist", "x", apart: true),
      coming(3, "Fog", "y", apart: true)
    ]
    expect(told(things, [])).to eq([%w[new take Fog], %w[new take Mist], %w[new take Fog]])
    expect(
      told(
        things,
        [here(1, "Fog", "x")]
      )
    ).to eq([%w[identical leave Fog], %w[identical leave Mist], ["named", "both", "Fog 2"]])
  end

  it "skips the second of two that paint alike, but not when the first was left out" do
    things = [coming(1, "Fog", "x"), coming(2, "Mist", "x")]
    expect(rows(things, []).map { [_1.decision, _1.twin] }).to eq([["take", nil], ["leave", 1]])
    expect(
      rows(things, [], items: {"1" => "leave"}).map {
        [_1.decision, _1.twin]
      }
    ).to eq([["leave", nil], ["take", nil]])
  end

  it "leaves out what cannot be used, whatever was decided" do
    %w[unreadable lacking future aside].each do |kind|
      expect(
        rows([coming(1, "x", nil, kind:)], [], all: {kind => "take"}).map {
          [_1.state, _1.choices, _1.decision]
        }
      ).to eq([[kind, ["leave"], "leave"]])
    end
  end

  # Whatever comes, in whatever order: taking a plan in and planning again leaves nothing to do,
  # and no plan made by default touches what is here.
  12.times do |seed|
    it "proposes nothing twice, and nothing that loses a brush (seed #{seed})" do
      chance = Random.new(seed)
      library = Array.new(6) { |i|
        here(
          i,
          "Brush #{chance.rand(4)}#{" b" * i}",
          "p#{i}",
          version: 1 + chance.rand(3),
          altered: chance.rand(2).zero?,
          hidden: chance.rand(5).zero?
        )
      }
      things = Array.new(10) { |i|
        coming(
          i,
          "Brush #{chance.rand(4)}#{" b" * chance.rand(4)}",
          "p#{chance.rand(12)}",
          document_id: chance.rand(2).zero? ? "id-#{chance.rand(6)}" : "new-#{i}",
          version: 1 + chance.rand(4)
        )
      }
      # The same identity in one package is the same brush.
      things = things.uniq(&:document_id)
      first = rows(things, library)
      after = library.map(&:dup)
      first.each do |row|
        case row.decision
        when "version" then after.find {
          _1.key == row.here.key
        }.tap { |one|
          one.past += [one.fingerprint]
          one.fingerprint = row.coming.fingerprint
          one.version += 1
          one.altered = true
        }
        when "take", "both" then after << here(
          100 + row.coming.key,
          row.name,
          row.coming.fingerprint,
          document_id: (after.any? {
            _1.document_id == row.coming.document_id
          }) ? "fresh-#{row.coming.key}" : row.coming.document_id,
          version: row.coming.version
        )
        end
      end
      expect(first.map(&:decision) - %w[take both version leave]).to eq([])
      expect(rows(things, after).map(&:decision).uniq - ["leave"]).to eq([])
      expect(rows(things.shuffle(random: chance), after).map(&:decision).uniq - ["leave"]).to eq([])
      shown = after.reject(&:hidden).map { _1.name.downcase }
      expect(shown.tally.values.max).to eq(library.reject(&:hidden).map { _1.name.downcase }.tally.values.max || 1)
      expect(library.map(&:fingerprint) - after.flat_map { [_1.fingerprint, *_1.past] }).to eq([])
    end
  end
end
