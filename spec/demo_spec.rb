# frozen_string_literal: true

require_relative "../demo/brushes"

RSpec.describe Fobrel::Demo::Brushes do
  brushes = described_class.all
  presets = brushes.map { Fobrel::Core::Preset::Preset.build(_1.name, _1.settings) }

  it "uses every method, turn, sensor and setting that can be driven" do
    schema = Fobrel::Core::Preset::Schema::DOCUMENT
    response = schema.dig("properties", "response", "items", "properties")
    responses = presets.flat_map { _1["response"] }
    turns = presets.flat_map { Array(_1["tip", "form", "turn"]) if _1.frames.size > 1 }.compact
    expect(presets.map { _1["method"] }.uniq).to match_array(schema.dig("properties", "method", "enum"))
    expect(turns.uniq).to match_array(schema.dig("$defs", "turn", "enum"))
    expect(responses.map { _1["by"] }.uniq).to match_array(response.dig("by", "enum"))
    expect(response.dig("drives", "enum") - responses.map { _1["drives"] }).to eq(%w[frame mix])
    expect(presets.size).to be >= 130
  end

  it "paints every one, each another picture, and says what it does" do
    assets = brushes.flat_map(&:pictures).to_h { ["sha256:#{Digest::SHA256.hexdigest(_1)}", _1] }
    strips = presets.map { Fobrel::Core::Stroke::Strip.png(_1, assets:) }
    expect(strips.uniq.size).to eq(presets.size)
    expect(presets.map { Fobrel::Core::Curation::Traits.of(_1).size }).to all(be >= 1)
    expect(presets.flat_map(&:unknown)).to eq([])
  end
end
