# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # Hands to try a brush with where there is no tablet, or to see how it would feel to a
      # colleague: each takes a movement and gives it the pressure, tremor and tilt of its own.
      class StandIn
        # Raised with the names there are, when one is asked for that there is not.
        class Unknown < Problem; end

        # A tremor has two beats that never meet, so that it does not look drawn with a ruler.
        BEATS = [[0.061, 1.0], [0.137, 0.6]].freeze

        # @return [String]
        attr_reader :name, :title

        # @yieldparam samples [Samples] as a hand that presses moves
        # @yieldparam tremor [Float] px
        # @yieldreturn [Hash{Symbol => Array<Float>}] the columns that are another
        def initialize(name, title, &columns)
          @name = name
          @title = title
          @columns = columns
          freeze
        end

        ALL = [
          new("light", "a light hand") { |samples| {pressure: samples.pressure.map { |pressure| pressure * 0.35 }} },
          new("heavy", "a heavy hand") do |samples|
            {pressure: samples.pressure.map { |pressure| (0.55 + pressure * 0.6).clamp(0, 1) }}
          end,
          new("shaky", "a shaky hand") do |samples, tremor|
            strayed = ->(axis, phase) { axis.zip(samples.t).map { |at, time| at + shake(time, phase, tremor) } }
            {x: strayed[samples.x, 0], y: strayed[samples.y, 1.7]}
          end,
          new("slanted", "a slanted pen") do |samples|
            {tilt_x: [50.0] * samples.size, tilt_y: [25.0] * samples.size}
          end,
          new("mouse", "a mouse") do |samples|
            {pressure: [0.5] * samples.size, tilt_x: [0.0] * samples.size, tilt_y: [0.0] * samples.size}
          end
        ].to_h { |one| [one.name, one] }.freeze

        # @param name [String] one of ALL
        # @return [StandIn]
        def self.fetch(name)
          ALL.fetch(name) {
            raise Unknown, "No stand-in is called #{name.to_s[0, 40].inspect}. There are: #{ALL.keys.join(", ")}."
          }
        end

        # @param time [Float] ms
        # @return [Float] px, up to `size`
        def self.shake(time, phase, size)
          BEATS.sum { |beat, share| Math.sin(time * beat + phase) * share } / 1.6 * size
        end

        # A mouse, or a finger, presses evenly: the hand then presses as hands do, rising and
        # letting go.
        #
        # @param samples [Samples]
        def self.pressed(samples)
          least, most = samples.pressure.minmax
          return samples if most - least > 0.01 || samples.size < 3
          last = samples.size - 1
          samples.with(pressure: (0..last).map { |i| 0.1 + 0.75 * Math.sin(Math::PI * i / last) })
        end
        private_class_method :pressed

        # @param samples [Samples]
        # @param tremor [Float] px, how far a shaky hand strays
        # @return [Samples] the same movement by this hand; its place may tremble, its length stays
        def movement(samples, tremor: 3.0)
          pressed = self.class.send(:pressed, samples)
          pressed.with(**@columns.call(pressed, tremor))
        end
      end
    end
  end
end
