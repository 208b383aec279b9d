# frozen_string_literal: true

# How long the hashes of very many brushes are held against each other, and how that grows. The hashes are those of
# the demo's strips at three sizes; drawn from them, and moved by eight levels here and there, so that few are the same.
# See bin/bench.
require_relative "../demo/brushes"
require_relative "rows"

$stdout.sync = true

module Fobrel
  ALIKE = Core::Curation::Likeness
  COUNT = Integer(ENV.fetch("FOBREL_MANY", 100_000))
  # The bits that say how much of one frequency there is: three, set from the lowest on.
  LEVELS = [0, 1, 3, 7].freeze
  AMOUNT = 9

  brushes = Demo::Brushes.all
  assets = brushes.flat_map(&:pictures).to_h { ["sha256:#{Digest::SHA256.hexdigest(_1)}", _1] }
  painted = brushes.product([0.6, 1.0, 1.7]).filter_map do |brush, factor|
    preset = Core::Preset::Preset.build(brush.name, brush.settings)
    size = preset["tip", "size", "base"] * factor
    [ALIKE.hash64(Core::Stroke::Strip.png(preset, assets:, size:)), size]
  rescue Core::Problem
    nil
  end

  chance = Random.new(7)
  moved = lambda do |hash|
    8.times do
      at = AMOUNT + 3 * chance.rand(ALIKE::LOW.size)
      level = (LEVELS.index((hash >> at) & 7) || 0) + ((chance.rand < 0.5) ? 1 : -1)
      hash = (hash & ~(7 << at)) | (LEVELS[level.clamp(0, 3)] << at)
    end
    hash
  end
  drawn = Array.new(COUNT) { |number|
    hash, size = painted.sample(random: chance)
    [number, [moved[hash], size * (0.9 + 0.2 * chance.rand)]]
  }
  scan = ->(count) { Rows.once { @pairs = ALIKE.candidates(drawn.first(count).to_h).size } }
  half = scan[COUNT / 2].first
  whole = nil
  Rows.row("near duplicates, hash scan of #{COUNT}", "s", 5.0) do
    whole, cpu = scan[COUNT]
    Rows::Found.new(value: whole / 1e3, brushes: whole, cpu:, more: "#{@pairs} pairs are close")
  end
  Rows.row("near duplicates, growth with twice as many", "×", 2 * Math.log(COUNT) / Math.log(COUNT / 2)) do
    Rows::Found.new(value: (whole || scan[COUNT].first) / half, more: "wanted: no faster than n log n")
  end
  Rows.end
end
