# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # What drives a response, as numbers 0–1, at one place of one stroke.
      class Sensors
        # Reaches at which a sensor reads 1.
        FAST = 3.0 # px per ms
        FAR = 1000.0 # px of arc
        LONG = 2000.0 # ms

        # @param path [Path]
        # @param chance [Random] one seeded generator for the whole stroke
        def initialize(path, chance)
          @path = path
          @chance = chance
          @stroke = chance.rand
          @began = path.at(0.0)[6]
        end

        # @param distance [Float] px along the path
        # @param spot [Array<Float>] what the path says of that place
        # @return [Proc] from a sensor's name to its reading 0–1
        def at(distance, spot)
          _x, _y, direction, pressure, tilt_x, tilt_y, time = spot
          lambda do |name|
            case name
            when "pressure" then pressure
            when "tilt" then 1 - Tilt.altitude(tilt_x, tilt_y) / (Math::PI / 2)
            when "tilt direction" then (-Tilt.azimuth(tilt_x, tilt_y) / (2 * Math::PI)) % 1.0
            when "direction" then (direction / (2 * Math::PI)) % 1.0
            when "speed" then speed(distance)
            when "distance" then [distance / FAR, 1.0].min
            when "time" then ((time - @began) / LONG).clamp(0.0, 1.0)
            when "random" then @chance.rand
            when "stroke" then @stroke
            else raise KeyError, "no sensor is called #{name.inspect}"
            end
          end
        end

        private

        # Over a stretch of a few pixels, since the clock of a single step is rough.
        def speed(distance)
          from = [distance - 6, 0.0].max
          to = [distance + 6, @path.length].min
          elapsed = @path.at(to)[6] - @path.at(from)[6]
          (elapsed <= 0) ? 0.0 : ((to - from) / elapsed / FAST).clamp(0.0, 1.0)
        end
      end
    end
  end
end
