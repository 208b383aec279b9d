# frozen_string_literal: true

# Writes likeness.json, the thresholds that Curation::Likeness holds strips against, from the
# demo's brushes and as many plain round ones made by chance:
#   bundle exec ruby core/data/measure_likeness.rb
require_relative "../../demo/brushes"

brushes = Fobrel::Demo::Brushes.all
assets = brushes.flat_map(&:pictures).to_h { ["sha256:#{Digest::SHA256.hexdigest(_1)}", _1] }
chance = Random.new(1)
round = Array.new(brushes.size) do
  {
    "tip" => {
      "form" => {"kind" => "round", "hardness" => chance.rand},
      "size" => {"base" => 4 + chance.rand**2 * 60},
      "roundness" => 0.15 + chance.rand * 0.85
    },
    "stroke" => {"spacing" => 0.1 + chance.rand, "scatter" => {"across" => chance.rand(3).zero? ? chance.rand : 0}},
    "paint" => {"opacity" => 0.3 + chance.rand * 0.7}
  }
end
found = (brushes.map(&:settings) + round).map do |settings|
  strip = Fobrel::Core::Stroke::Strip.png(Fobrel::Core::Preset::Preset.build("Measured", settings), assets:)
  Fobrel::Core::Curation::Likeness.features(strip)
end
parts = found.transpose.each_with_index.map do |values, index|
  shares = index.zero? ? (1..9).map { _1 / 10.0 } : [0.25, 0.5, 0.75]
  values.sort.then { |all| shares.map { |share| all[(all.size * share).floor].round(4) } }
end
File.write(File.join(__dir__, "likeness.json"), JSON.generate(parts))
