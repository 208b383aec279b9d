# frozen_string_literal: true

RSpec.describe Fobrel::Core::Glossary do
  it "explains each word once, in at most two sentences" do
    words = described_class.entries.map { _1.word.downcase }
    expect(words.uniq).to eq(words)
    described_class.entries.each do |entry|
      expect([entry.word, entry.text, entry.text.scan(/[.:] /).size]).to match([/\S/, /\.\z/, be <= 3])
    end
  end

  it "shows what can be painted as a stroke of a valid brush, each another" do
    painted = described_class.entries.select(&:painted).map(&:word)
    expect(painted).to include("strip", "reel", "ribbon", "garland", "smear", "own paint")
    strips = painted.map do |word|
      preset, assets = described_class.example(word)
      Fobrel::Core::Stroke::Strip.png(preset, assets:)
    end
    expect(strips.uniq.size).to eq(strips.size)
    expect(described_class.png("ribbon")).to eq(strips[painted.index("ribbon")])
    expect { described_class.example("tray") }.to raise_error(KeyError)
    expect { described_class.png("nothing") }.to raise_error(KeyError)
  end
end
