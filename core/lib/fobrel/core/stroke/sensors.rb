# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # What drives a response, as numbers 0–1, along one stroke.
      #
      #   sensors = Sensors.new(path, Random.new(1))
      #   sensors.reading("pressure", path.at(50))             # => 0.8
      #   sensors.column("pressure", [path.at(0), path.at(50)])   # => [0.2, 0.8]
      class Sensors
        # Reaches at which a sensor reads 1.
        FAST = 3.0 # px per ms
        FAR = 1000.0 # px of arc
        LONG = 2000.0 # ms
        # Speed is read over so much of the way before and after a place, px: the clock of a single step is rough.
        AROUND = 6
        # Read anew each time it is asked for; all others read the same at the same place.
        CHANCE = "random"

        # @param path [Path]
        # @param chance [Random] one seeded generator for the whole stroke
        def initialize(path, chance)
          @path = path
          @chance = chance
          @stroke = chance.rand
          @began = path.times_at([0.0]).first
        end

        # @param name [String] of a sensor
        # @param place [Place]
        # @return [Float] 0–1
        # @raise [KeyError]
        def reading(name, place)
          case name
          when "pressure" then place.pressure
          when "tilt" then 1 - Tilt.altitude(place.tilt_x, place.tilt_y) / (Math::PI / 2)
          when "tilt direction" then turn(-Tilt.azimuth(place.tilt_x, place.tilt_y))
          when "direction" then turn(place.direction)
          when "speed" then speeds([place.distance]).first
          when "distance" then [place.distance / FAR, 1.0].min
          when "time" then ((place.t - @began) / LONG).clamp(0.0, 1.0)
          when CHANCE then @chance.rand
          when "stroke" then @stroke
          else raise KeyError, "no sensor is called #{name.inspect}"
          end
        end

        # @param places [Array<Place>]
        # @return [Array<Float>] 0–1, one for each
        def column(name, places)
          return speeds(places.map(&:distance)) if name == "speed"
          places.map { |place| reading(name, place) }
        end

        private

        def turn(radians) = (radians / (2 * Math::PI)) % 1.0

        def speeds(distances)
          from = distances.map { |distance| [distance - AROUND, 0.0].max }
          to = distances.map { |distance| [distance + AROUND, @path.length].min }
          from.zip(to, @path.times_at(from), @path.times_at(to)).map do |start, finish, began, ended|
            (ended <= began) ? 0.0 : ((finish - start) / (ended - began) / FAST).clamp(0.0, 1.0)
          end
        end
      end
    end
  end
end
