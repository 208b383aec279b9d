# frozen_string_literal: true

RSpec.describe Fobrel::Core::Curation::Likeness do
  def strip(**with) = S::Strip.png(round_preset(**with))

  it "gives near strips near hashes, and other strokes others" do
    base = described_class.hash64(strip(size: 20, hardness: 0.8))
    near = described_class.hash64(strip(size: 20, hardness: 0.795))
    others = [
      strip(size: 20, hardness: 0.1),
      strip(size: 20, hardness: 0.8, stroke: {"spacing" => 1.6}),
      strip(size: 6),
      strip(size: 36)
    ].map {
      described_class.hash64(_1)
    }
    distance = ->(one, other) { (one ^ other).digits(2).sum }
    expect(distance[base, near]).to be <= described_class::BITS
    expect(others.drop(1).map { distance[base, _1] > described_class::BITS }).to eq([true, true, true])
    expect([base, *others]).to all(be_between(-(2**63), 2**63 - 1))
  end

  # Outside reference: the DCT-II by its sums, written anew in Python; likeness_values.py.
  JSON.parse(File.read(File.join(__dir__, "likeness_values.json"))).each_with_index do |one, index|
    it "reads the low frequencies of how paint is spread, picture #{index}" do
      found = described_class.features(grey_png(one["tones"]))
      expect(found.size).to eq(one["features"].size)
      found.zip(one["features"]).each { |mine, theirs| expect(mine).to be_within(1e-9).of(theirs) }
    end
  end

  {
    "of hashes that differ anywhere" => ->(chance) { chance.rand(2**63) >> 40 << 3 },
    "of hashes some of whose bits are set where others are not" => lambda do |chance|
      2.times.inject((chance.rand < 0.5) ? 0x3fff00000000 : 0x00001fff0000) { |hash, _| hash ^ (1 << chance.rand(63)) }
    end,
    "of the same hash" => ->(_) { 5 }
  }.each do |which, hash|
    it "finds the same pairs as looking at each against each, #{which}" do
      chance = Random.new(9)
      brushes = (0...120).to_h { |i| [i, [hash[chance], 5.0 + chance.rand * 20]] }
      expected = brushes.keys.combination(2).select do |a, b|
        sizes = [brushes[a], brushes[b]].map(&:last).minmax
        bits = (brushes[a][0] ^ brushes[b][0]).digits(2).sum
        bits <= described_class::BITS && sizes[1] <= sizes[0] * described_class::SIZES
      end
      expect(expected.size).to be > 20
      expect(described_class.candidates(brushes).map(&:sort).sort).to eq(expected.sort)
    end
  end

  it "finds no pairs of no brushes" do
    expect(described_class.candidates({})).to eq([])
  end

  it "looks only where there is paint, so that thin lines are not all alike" do
    looks = [strip(size: 3), strip(size: 3, stroke: {"spacing" => 2.5}), strip(size: 3, hardness: 0.99)].map {
      described_class.look(_1)
    }
    expect(described_class.alike(looks[0], looks[1])).to be < 0.7
    expect(described_class.alike(looks[0], looks[2])).to be >= described_class::ALIKE
    expect(S::Comparison.ssim(looks[0], looks[1])).to be > 0.85
    thumbs = {"20" => 20, "30" => 30, "same" => 20}.transform_values { described_class.thumb(strip(size: _1)) }
    expect(described_class.likely([%w[20 30], %w[20 same], %w[20 unpainted]], thumbs)).to eq([%w[20 same]])
    expect(described_class.likely([%w[20 30]], {})).to eq([])
  end

  it "gathers pairs into groups" do
    expect(described_class.groups([[1, 2], [2, 3], [7, 8]]).map(&:sort).sort).to eq([[1, 2, 3], [7, 8]])
  end
end

RSpec.describe Fobrel::Core::Curation::Differences do
  it "lists only the settings that differ, in words, for each brush" do
    brushes = [round_preset(size: 20), round_preset(size: 30), round_preset(size: 20, paint: {"flow" => 0.5})]
    expect(described_class.of(brushes)).to eq(
      [
        ["Size", ["20 px", "30 px", "20 px"]],
        ["Flow", ["100 %", "100 %", "50 %"]]
      ]
    )
    expect(described_class.of([brushes[0], brushes[0]])).to eq([])
  end
end
