# frozen_string_literal: true

# Presets made by chance, from every branch of the schema.
module Generated
  NUMBERS = [
    %w[tip size base],
    %w[tip roundness],
    %w[tip angle],
    %w[stroke spacing],
    %w[stroke scatter across],
    %w[stroke smoothing],
    %w[paint opacity],
    %w[paint flow],
    %w[paint mix]
  ].freeze

  def self.preset(chance)
    document = {
      "format" => "fobrel.preset/1",
      "id" => "0b0e3a52-6a0f-4c3d-9a50-0f1d8f2f6f11",
      "name" => %w[Fog Rain Kelp].sample(random: chance),
      "method" => %w[dabs smear garland].sample(random: chance),
      "tip" => {"form" => tip(chance), "size" => {"base" => chance.rand(1..60)}},
      "response" => Array.new(chance.rand(0..4)) { response(chance) }.uniq { _1.values_at("drives", "by") },
      "grain" => chance.rand(2).zero? ? nil : {
        "asset" => "sha256:#{"a" * 64}",
        "depth" => chance.rand(0..4) / 4.0
      },
      "paint" => {
        "colour" => chance.rand(2).zero? ? {"mode" => "artist"} : {
          "mode" => "fixed",
          "value" => format("#%06x", chance.rand(4))
        }
      },
      "extras" => {"mirror" => [nil, "down"].sample(random: chance)},
      "about" => {"tags" => %w[a b c].sample(chance.rand(3), random: chance)}
    }
    document["stroke"] = {"wobble" => chance.rand(3)} if chance.rand(3).zero?
    Preset[document]
  end

  def self.tip(chance)
    return {"kind" => "round", "hardness" => chance.rand(0..4) / 4.0} if chance.rand(2).zero?
    {"kind" => "picture", "frames" => Array.new(chance.rand(1..3)) { "sha256:#{chance.rand(3).to_s * 64}" }}
  end

  def self.response(chance)
    {
      "drives" => %w[size flow hue].sample(random: chance),
      "by" => %w[pressure tilt random].sample(random: chance),
      "from" => chance.rand(0..2) / 2.0
    }
  end
end

RSpec.describe Fobrel::Core::Preset::Changes do
  let(:fog) { round_preset(size: 40, hardness: 0.8, response: [by_pressure("size", 0.2, 1)]) }

  it "says what changed, setting by setting, in the words and the order of the screen" do
    after = round_preset(
      size: 28,
      hardness: 0,
      tip: {"angle" => 15, "hard_pixels" => true},
      response: [by_pressure("size", 0.3, 1), {"drives" => "hue", "by" => "tilt", "from" => -5, "to" => 8}],
      paint: {"flow" => 0.075, "colour" => {"mode" => "fixed", "value" => "#0f6b6b"}},
      stroke: {"spacing" => 0.25}
    )
    expect(
      described_class.between(
        fog,
        after
      ).words
    ).to eq(
      [
        "Hardness 80 % → 0 %",
        "Size 40 px → 28 px",
        "Angle 0° → 15°",
        "Hard pixels off → on",
        "Spacing 10 % → 25 %",
        "Size by pressure 20 % to 100 % → 30 % to 100 %",
        "Hue by tilt none → -5° to 8°",
        "Flow 100 % → 7.5 %",
        "Colour the artist's → #0f6b6b"
      ]
    )
    expect(
      described_class.between(
        fog,
        after
      ).in(%w[paint stroke]).map(&:path)
    ).to eq([%w[stroke spacing], %w[paint flow], %w[paint colour]])
  end

  it "sees nothing between two writings of one preset" do
    sparse = Preset[fog.to_h.slice("format", "id", "name", "method", "tip", "response")]
    expect(described_class.between(sparse, fog)).to be_empty
  end

  it "takes another kind of tip as one change, and tells two responses of one kind apart" do
    tip = {"kind" => "picture", "frames" => ["sha256:#{"b" * 64}"]}
    other = Preset.build(
      "Round",
      {
        "tip" => {"form" => tip, "size" => {"base" => 40}},
        "response" => [by_pressure("size", 0.2, 1), by_pressure("size", 0.5, 1)]
      }
    )
    found = described_class.between(fog, other)
    expect(found.map(&:path)).to eq([%w[tip form], %w[response size pressure 2]])
    expect(found.words.first).to eq("Tip round → picture")
  end

  it "gives b when the changes from a to b are applied to a, whatever the two are" do
    chance = Random.new(11)
    300.times do
      a, b = Array.new(2) { Generated.preset(chance) }
      changes = described_class.between(a, b)
      expect(changes.apply(a)).to be_alike(b)
      expect(described_class.between(changes.apply(a), b)).to be_empty
      expect(changes.words).to all(be_a(String))
    end
  end

  it "refuses changes that do not go together" do
    changes = described_class.new(
      [
        described_class::Change.new(%w[tip size maximum], 5000, 2),
        described_class::Change.new(%w[tip size minimum], 1, 9)
      ]
    )
    expect { changes.apply(fog) }.to raise_error(Preset::Invalid, /minimum size, .* is above the maximum size/)
  end
end

RSpec.describe Fobrel::Core::Preset::Merge do
  let(:base) { round_preset(size: 40, response: [by_pressure("size", 0.2, 1)]) }

  def changed(size: 40, **with) = round_preset(size:, response: [by_pressure("size", 0.2, 1)], **with)

  it "takes both sides' changes where they do not meet" do
    merge = described_class.new(
      base:,
      mine: changed(size: 28),
      theirs: changed(hardness: 0.5, paint: {"flow" => 0.3})
    )
    merged = merge.preset
    expect(
      [
        merge.conflicts,
        merged["tip", "size", "base"],
        merged["tip", "form", "hardness"],
        merged["paint", "flow"]
      ]
    ).to eq([[], 28, 0.5, 0.3])
  end

  it "asks where both changed one setting, and takes what was chosen" do
    merge = described_class.new(base:, mine: changed(size: 28, hardness: 0), theirs: changed(size: 60))
    expect(
      merge.conflicts.map {
        [_1.title, _1.words]
      }
    ).to eq([["Size", {"base" => "40 px", "mine" => "28 px", "theirs" => "60 px"}]])
    expect { merge.preset }.to raise_error(described_class::Undecided, /Both of you changed Size\. Nothing was saved/)
    expect { merge.preset({merge.conflicts[0].key => "nobody"}) }.to raise_error(described_class::Undecided)
    chosen = %w[mine theirs].map { |side| merge.preset({merge.conflicts[0].key => side}) }
    expect(chosen.map { [_1["tip", "size", "base"], _1["tip", "form", "hardness"]] }).to eq([[28, 0], [60, 0]])
  end

  it "sees no conflict where both did the same" do
    expect(
      described_class.new(base:, mine: changed(size: 28), theirs: changed(size: 28)).preset["tip",
        "size",
        "base"]
    ).to eq(28)
  end

  it "sees that another tip and another hardness cannot both be had" do
    picture = Preset.build(
      "Round",
      {
        "tip" => {"form" => {"kind" => "picture", "frames" => ["sha256:#{"b" * 64}"]}, "size" => {"base" => 40}},
        "response" => base["response"]
      }
    )
    merge = described_class.new(base:, mine: picture, theirs: changed(hardness: 0.4))
    expect(merge.conflicts.map(&:path)).to eq([%w[tip form]])
    expect(
      merge.preset({merge.conflicts[0].key => "theirs"})["tip",
        "form"]
    ).to eq({"kind" => "round", "hardness" => 0.4})
  end

  it "has both of disjoint changes and decides no conflict by itself, whatever the three are" do
    chance = Random.new(23)
    120.times do
      root, mine, theirs = Array.new(3) { Generated.preset(chance) }
      merge = described_class.new(base: root, mine:, theirs:)
      expect { merge.preset }.to raise_error(described_class::Undecided) if merge.conflicts.any?
      all_mine = merge.preset(merge.conflicts.to_h { [_1.key, "mine"] })
      left = Fobrel::Core::Preset::Changes.between(all_mine, mine)
      both = merge.mine.map(&:path).product(merge.theirs.map(&:path))
      # What still differs from mine is only what they alone changed.
      expect(left.map(&:path) - [Fobrel::Core::Preset::Changes::ORDER]).to all(
        satisfy { |path|
          merge.theirs.any? {
            _1.path == path
          } && both.none? { |m, t|
                 m == path && t == path
               }
        }
      )
    end
  end
end

RSpec.describe Fobrel::Core::Preset::Capture do
  let(:stray) {
    round_preset(
      paint: {"colour" => {"mode" => "fixed", "value" => "#0f6b6b"}, "flow" => 0.4},
      extras: {"mirror" => "down", "layer" => "ink", "behind" => true}
    )
  }

  it "keeps only what was asked for, and everything that is no state of the moment" do
    expect(described_class.held(stray)).to eq(%w[colour layer behind mirror])
    kept = described_class.only(stray, %w[layer])
    expect(
      [
        kept["extras"].values_at("layer", "behind", "mirror"),
        kept["paint", "colour"],
        kept["paint", "flow"]
      ]
    ).to eq([["ink", false, nil], {"mode" => "artist"}, 0.4])
    expect(described_class.only(round_preset, []).fingerprint).to eq(round_preset.fingerprint)
  end
end

RSpec.describe Fobrel::Core::Curation::CanvasFit do
  it "brings sizes under a share of the short side, and leaves alone what fits" do
    big = round_preset(size: 900, tip: {"size" => {"base" => 900, "minimum" => 300, "maximum" => 4000}})
    fitted = described_class.of(big, width: 1000, height: 600, share: 0.4)
    expect(fitted["tip", "size"]).to eq({"base" => 240.0, "minimum" => 240.0, "maximum" => 240.0})
    small = round_preset(size: 20, tip: {"size" => {"base" => 20, "minimum" => 1, "maximum" => 100}})
    expect(described_class.of(small, width: 1000, height: 600, share: 0.4)).to equal(small)
  end
end
