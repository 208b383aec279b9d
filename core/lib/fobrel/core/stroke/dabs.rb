# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # Sets the dabs of a preset along a path.
      #
      #   Dabs.new(preset).along(path, seed: 1)   # => [Dab, Dab, …]
      class Dabs
        # One print of the tip: place and size in pixels, angle in degrees counter-clockwise,
        # roundness, opacity and flow 0–1, which frame of a reel (from 0), grain depth 0–1, the
        # shift of the colour (hue in degrees, saturation and lightness as fractions), mix 0–1.
        Dab = Struct.new(
          :x,
          :y,
          :size,
          :angle,
          :roundness,
          :opacity,
          :flow,
          :frame,
          :depth,
          :hue,
          :saturation,
          :lightness,
          :mix
        ) do
          # @return [Boolean] whether the colour is another than the stroke's
          def shifted? = hue != 0 || saturation != 0 || lightness != 0

          # @return [Hash] as `fobrel stroke --report` writes it
          def report
            {
              x: x.round(4),
              y: y.round(4),
              size: size.round(4),
              angle: angle.round(4),
              opacity: opacity.round(6),
              frame:,
              flow: flow.round(6),
              roundness: roundness.round(6),
              depth: depth.round(6),
              hue: hue.round(4),
              saturation: saturation.round(6),
              lightness: lightness.round(6),
              mix: mix.round(6)
            }
          end
        end

        # Raised when a stroke would take more dabs than anybody would wait for.
        class TooMany < Problem; end

        # Never closer than this, whatever the spacing.
        CLOSEST = 0.5
        MOST = 50_000
        # Rounding may leave the last dab of an even line a hair beyond its end.
        SLACK = 1e-6

        # @param preset [Preset::Preset]
        def initialize(preset)
          @mark = preset["mark"]
          @trail = preset["trail"]
          @pigment = preset["pigment"]
          @surface = preset["surface"]
          @hung = preset["method"] == "garland"
          @responses = preset["response"].map { Response.new(_1) }
          @reel = Reel.new(preset)
        end

        # @param path [Path]
        # @param seed [Integer] the same seed gives the same dabs everywhere
        # @return [Array<Dab>] in the order they are laid
        # @raise [TooMany]
        def along(path, seed: 1)
          chance = Random.new(seed)
          sensors = Sensors.new(path, chance)
          dabs = []
          distance = 0.0
          until distance > path.length + SLACK
            Clock.tick
            spot = path.at(distance)
            sensed = sensors.at(distance, spot)
            driven = Response.together(@responses, sensed)
            size = size(driven)
            @trail["count"].times { dabs << dab(spot, size, driven, sensed, chance, dabs) }
            if dabs.size > MOST
              raise TooMany,
                "This stroke would take more than #{MOST} dabs. Widen the spacing or shorten the stroke."
            end
            distance += step(size)
          end
          dabs
        end

        private

        # Drawings of a garland hang at one distance, however large each is.
        def step(size) = [@trail["spacing"] * (@hung ? @mark["size"]["base"] : size), CLOSEST].max

        def size(driven)
          size = @mark["size"]
          (size["base"] * driven.fetch("size", 1.0)).clamp(size["least"], [size["most"], size["least"]].max)
        end

        def dab(spot, size, driven, sensed, chance, before)
          x, y = scatter(spot, size, driven.fetch("scatter", 1.0), chance)
          turn = @hung ? spot[2] * 180 / Math::PI : 0.0
          frame = @reel.frame(before.size, before.last&.frame, sensed, driven["frame"], chance)
          Dab.new(
            x,
            y,
            size,
            @mark["angle"] + turn + driven.fetch("angle", 0.0),
            (@mark["roundness"] * driven.fetch("roundness", 1.0)).clamp(0.01, 1.0),
            share(@pigment["opacity"], driven["opacity"]),
            share(@pigment["flow"], driven["flow"]),
            frame,
            @surface ? share(@surface["depth"], driven["grain depth"]) : 0.0,
            driven.fetch("hue", 0.0),
            driven.fetch("saturation", 0.0),
            driven.fetch("lightness", 0.0),
            share(@pigment["mix"], driven["mix"])
          )
        end

        def share(base, factor) = (base * (factor || 1.0)).clamp(0.0, 1.0)

        def scatter(spot, size, strength, chance)
          x, y, direction = spot
          across = @trail["scatter"]["across"]
          along = @trail["scatter"]["along"]
          return [x, y] if across.zero? && along.zero?
          sideways = (chance.rand * 2 - 1) * across * size * strength
          onward = (chance.rand * 2 - 1) * along * size * strength
          cos = Math.cos(direction)
          sin = Math.sin(direction)
          [x + cos * onward - sin * sideways, y - sin * onward - cos * sideways]
        end
      end
    end
  end
end
