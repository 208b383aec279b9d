# frozen_string_literal: true

# Draws the sample strokes: hand-like, and the same every time. ruby core/data/draw_sample_strokes.rb
require "json"

PAGE = [700, 120].freeze
CHANCE = Random.new(7)

# A slow wander, as a hand has, instead of noise from sample to sample.
def wander(count, reach)
  knots = Array.new(count / 8 + 3) { (CHANCE.rand * 2 - 1) * reach }
  Array.new(count) do |i|
    at = i / 8.0
    part = at % 1
    part = part * part * (3 - 2 * part)
    knots[at.floor] * (1 - part) + knots[at.floor + 1] * part
  end
end

# The block gives x, y, pressure, tiltX, tiltY for 0–1 of the way; pace is milliseconds a sample.
def draw(name, title, count: 100, pace: 8, shake: 0.35)
  side = wander(count + 1, shake)
  down = wander(count + 1, shake)
  time = 0.0
  samples = (0..count).map do |i|
    u = i.fdiv(count)
    x, y, pressure, tilt_x, tilt_y = yield(u)
    time += (pace.respond_to?(:call) ? pace.call(u) : pace) if i.positive?
    {
      x: (x + side[i]).round(2),
      y: (y + down[i]).round(2),
      pressure: pressure.clamp(0, 1).round(4),
      tiltX: (tilt_x || 14).round(1),
      tiltY: (tilt_y || -22).round(1),
      t: time.round(1)
    }
  end
  File.write(File.join(__dir__, "sample_strokes/#{name}.json"), JSON.generate({title:, page: PAGE, samples:}) << "\n")
end

wave = ->(u, reach = 24) { [44 + 612 * u, 60 - Math.sin(u * 2 * Math::PI) * reach] }
swelling = ->(u) { [Math.sin(Math::PI * u)**0.8, 0.02].max }

draw("swell", "Swell: a wave that rises to full pressure and back", count: 120) { |u|
  [*wave[u], swelling[u], 12 + 10 * Math.sin(u * 5), -20 + 8 * u]
}
draw("press", "Press: from nothing to full on a straight line") { |u| [40 + 620 * u, 60, u] }
draw("tilt", "Tilt arc: the pen leans from upright to flat") { |u|
  [44 + 612 * u, 78 - Math.sin(u * Math::PI) * 40, 0.7, 70 * u, -10 - 45 * u]
}
draw(
  "flick",
  "Flick: quick, and let go",
  count: 34,
  pace: ->(u) {
    9 - 7 * u
  },
  shake: 0.2
) { |u| [50 + 590 * u**1.4, 88 - 58 * u, 0.95 * (1 - u)**0.7 + 0.02] }
draw("hatching", "Hatching: short lines to and fro", count: 220, pace: 6) do |u|
  turn = (u * 14) % 2
  swing = (turn < 1) ? turn : 2 - turn
  [60 + 560 * u + 26 * swing, 98 - 76 * swing, 0.35 + 0.4 * Math.sin(Math::PI * (turn % 1))]
end
draw("taps", "Taps: a row of short presses", count: 143, pace: 10, shake: 0.2) do |u|
  tap = [(u * 9).floor, 8].min
  part = u * 9 - tap
  [70 + 70 * tap + 5 * part, 62 + 6 * ((tap % 2) * 2 - 1), 0.9 * Math.sin(Math::PI * part.clamp(0, 1))]
end
draw("shaky", "Shaky: a straight line from an unsteady hand", count: 160) { |u|
  [44 + 612 * u, 60 + 4.5 * (CHANCE.rand - 0.5) + 3 * Math.sin(u * 90), 0.6 + 0.1 * (CHANCE.rand - 0.5)]
}
draw("crossing", "Crossing: a line that runs over itself", count: 160) { |u|
  [350 + 250 * Math.sin(u * 3 * Math::PI), 60 + 36 * Math.sin(6 * Math::PI * u + 0.3), 0.7]
}
draw("turn", "Slow turn: a spiral, drawn carefully", count: 140, pace: 14) do |u|
  angle = u * 4.5 * Math::PI
  [
    350 - (40 + 230 * u) * Math.cos(angle),
    60 + (10 + 34 * u) * Math.sin(angle),
    0.4 + 0.4 * u,
    30 * Math.cos(angle),
    30 * Math.sin(angle)
  ]
end
