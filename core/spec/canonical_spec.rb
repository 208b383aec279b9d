# frozen_string_literal: true

require "fobrel/core"

RSpec.describe Fobrel::Core::Canonical do
  # Outside reference: the library json-canonicalization (RFC 8785 but for the seventeenth digit).
  it "writes the same bytes as the library, for documents of every kind" do
    chance = Random.new(11)
    texts = ["", "a", "Ω", "帆", "\u{1F58C}", "a\"b\\c\n", "\u0001", "é", "Z", "_", "10", "9"]
    leaf = lambda do
      [
        nil,
        true,
        false,
        chance.rand(-9..9),
        10**chance.rand(14..17),
        -(10**15),
        chance.rand,
        chance.rand * 1e-7,
        chance.rand * 1e22,
        0.0,
        -0.0,
        9.7,
        0.1 + 0.2,
        chance.rand(2000) / 10.0,
        texts.sample(random: chance)
      ].sample(random: chance)
    end
    make = lambda do |depth|
      next leaf.call if depth.zero? || chance.rand(3).zero?
      size = chance.rand(5)
      next Array.new(size) { make.call(depth - 1) } if chance.rand(2).zero?
      Array.new(size) { [texts.sample(random: chance) + texts.sample(random: chance), make.call(depth - 1)] }.to_h
    end
    500.times do
      document = make.call(4)
      expect(described_class.json(document)).to eq(document.to_json_c14n)
      ordered = described_class.ordered(document)
      expect(described_class.json(ordered)).to eq(document.to_json_c14n)
      expect(JSON.generate(ordered).delete(" ").size).to be <= JSON.generate(document).size
    end
  end

  it "puts keys in the order of their UTF-16 code units, as RFC 8785 has it (3.2.3)" do
    keys = ["\u20ac", "\r", "\ufb33", "1", "\u{1F600}", "\u0080", "ö"]
    sorted = ["\r", "1", "\u0080", "ö", "\u20ac", "\u{1F600}", "\ufb33"]
    expect(described_class.ordered(keys.to_h { [_1, 0] }).keys).to eq(sorted)
  end

  it "refuses what is not a number" do
    expect { described_class.json({"a" => Float::NAN}) }.to raise_error(RangeError)
    expect { described_class.json([Float::INFINITY]) }.to raise_error(RangeError)
  end
end
