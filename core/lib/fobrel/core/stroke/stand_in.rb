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

        def initialize(name, title, &row)
          @name = name
          @title = title
          @row = row
          freeze
        end

        ALL = [
          new("light", "a light hand") { |x, y, p, tx, ty, t, _| [x, y, p * 0.35, tx, ty, t] },
          new("heavy", "a heavy hand") { |x, y, p, tx, ty, t, _| [x, y, (0.55 + p * 0.6).clamp(0, 1), tx, ty, t] },
          new("shaky", "a shaky hand") { |x, y, p, tx, ty, t, size|
            [x + shake(t, 0, size), y + shake(t, 1.7, size), p, tx, ty, t]
          },
          new("slanted", "a slanted pen") { |x, y, p, _, _, t, _| [x, y, p, 50.0, 25.0, t] },
          new("mouse", "a mouse") { |x, y, _, _, _, t, _| [x, y, 0.5, 0.0, 0.0, t] }
        ].to_h { [_1.name, _1] }.freeze

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
        # @param rows [Array<Array<Float>>]
        def self.pressed(rows)
          least, most = rows.map { _1[2] }.minmax
          return rows if most - least > 0.01 || rows.size < 3
          rows.each_with_index.map { |row, i|
            row.dup.tap {
              _1[2] = 0.1 + 0.75 * Math.sin(Math::PI * i / (rows.size - 1))
            }
          }
        end
        private_class_method :pressed

        # @param samples [Samples]
        # @param tremor [Float] px, how far a shaky hand strays
        # @return [Samples] the same movement by this hand; its place may tremble, its length stays
        def movement(samples, tremor: 3.0)
          Samples.new(self.class.send(:pressed, samples.rows).map { |row| @row.call(*row, tremor) })
        end
      end
    end
  end
end
