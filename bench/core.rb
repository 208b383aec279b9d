# frozen_string_literal: true

# Speed and memory of the core, as ratios where something can be held beside it. See bin/bench.
require_relative "../demo/brushes"

S = Fobrel::Core::Stroke
PRESET = Fobrel::Core::Preset::Preset

def clock = Process.clock_gettime(Process::CLOCK_MONOTONIC) * 1e3

# The best of several runs, in milliseconds: the one the rest of the machine disturbed least.
def best(runs = 7)
  yield
  Array.new(runs) { clock.then { |began| yield && clock - began } }.min
end

def resident = File.read("/proc/self/status")[/VmRSS:\s+(\d+)/, 1].to_i / 1024.0

def peak = File.read("/proc/self/status")[/VmHWM:\s+(\d+)/, 1].to_i / 1024.0

def title(text) = puts("", text, "-" * text.size)

def dabs(count, size)
  Array.new(count) { |i|
    S::Dabs::Dab.new(
      150 + i * 680.0 / count,
      150 + 20 * Math.sin(i * 0.1),
      size.to_f,
      0.0,
      1.0,
      1.0,
      0.3,
      0,
      0.0,
      0.0,
      0.0,
      0.0,
      0.0
    )
  }
end

brushes = Fobrel::Demo::Brushes.all
assets = brushes.flat_map(&:pictures).to_h { ["sha256:#{Digest::SHA256.hexdigest(_1)}", _1] }
preset = ->(brush) { PRESET.build(brush.name, brush.settings) }

title "Memory of one strip, above the idle process (wanted: at most 60 MB)"
heavy = preset[brushes.find { _1.name == "Dry sail" }]
before = resident
S::Strip.png(heavy, assets:)
puts format("%.0f MB", peak - before)

title "From a movement to its dabs, in columns; beside it the same, stop by stop"
# Each stop reads all sensors for itself, as one would write it first. It gives the same sizes.
stop_by_stop = lambda do |one, path|
  sensors = S::Sensors.new(path, Random.new(1))
  responses = one["response"].map { |setting| S::Response.new(setting) }
  distance = 0.0
  found = []
  until distance > path.length
    place = path.at(distance)
    driven = responses.group_by(&:drives).to_h { |name, list|
      [name, S::Response.together(name, list.map { |response| response.answer(sensors.reading(response.by, place)) })]
    }
    size = one["tip", "size", "base"] * driven.fetch("size", 1.0)
    found << {x: place.x, y: place.y, size:, opacity: driven.fetch("opacity", 1.0), flow: driven.fetch("flow", 1.0)}
    distance += [one["stroke", "spacing"] * size, S::Dabs::CLOSEST].max
  end
  found
end
swell = S::SampleStroke.fetch("swell").on([700, 120])
driven = %w[pressure speed tilt].zip(%w[size opacity flow]).map { |by, drives|
  {"drives" => drives, "by" => by, "from" => 0.3, "to" => 1.0, "curve" => [[0, 0], [0.4, 0.6], [1, 1]]}
}
one = PRESET.build(
  "Driven",
  {
    "tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 20}},
    "stroke" => {"spacing" => 0.1},
    "response" => driven
  }
)
path = S::Path.through(swell)
ours = best(9) { S::Dabs.new(one).along(path) }
theirs = best(9) { stop_by_stop[one, path] }
puts format(
  "%d dabs, three responses: %5.2f ms, stop by stop %5.2f ms: %4.2f ×; the path itself %5.2f ms",
  S::Dabs.new(one).along(path).size,
  ours,
  theirs,
  ours / theirs,
  best(9) { S::Path.through(swell) }
)

tip = S::RoundTip.new(hardness: 0.5)
title "Cost against dabs × area (a straight line is even)"
[[100, 80], [200, 80], [400, 80], [800, 80], [400, 40], [400, 160]].each do |count, size|
  ms = best(3) { S::Layer.new(1000, 300).lay(dabs(count, size), tip) }
  puts format("%3d dabs of %3d px: %7.1f ms, %5.1f ns a pixel", count, size, ms, ms * 1e6 / (count * size * size))
end
