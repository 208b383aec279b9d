# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # Sets the dabs of a preset along a path.
      #
      #   Dabs.new(preset).along(path, seed: 1)   # => [Dab, Dab, …]
      class Dabs
        # One print of the tip: place and size in pixels, angle in degrees counter-clockwise,
        # roundness, opacity and flow 0–1, which frame of a reel (from 0), grain depth 0–1.
        Dab = Struct.new(:x, :y, :size, :angle, :roundness, :opacity, :flow, :frame, :depth, keyword_init: true) do
          # @return [Hash] as `fobrel stroke --report` writes it
          def report
            {x: x.round(4), y: y.round(4), size: size.round(4), angle: angle.round(4), opacity: opacity.round(6), frame:}
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
          @responses = preset["response"].map { Response.new(_1) }
          @frames = preset.frames.size
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
            driven = Response.together(@responses, sensors.at(distance))
            size = size(driven)
            @trail["count"].times { dabs << dab(path, distance, size, driven, chance, dabs.size) }
            raise TooMany, "This stroke would take more than #{MOST} dabs. Widen the spacing or shorten the stroke." if dabs.size > MOST
            distance += [@trail["spacing"] * size, CLOSEST].max
          end
          dabs
        end

        private

        def size(driven)
          size = @mark["size"]
          (size["base"] * driven.fetch("size", 1.0)).clamp(size["least"], [size["most"], size["least"]].max)
        end

        def dab(path, distance, size, driven, chance, index)
          x, y, direction = path.at(distance)
          x, y = scatter(x, y, direction, size, driven.fetch("scatter", 1.0), chance)
          Dab.new(x:, y:, size:, frame: @frames.zero? ? 0 : index % @frames,
            angle: @mark["angle"] + driven.fetch("angle", 0.0),
            roundness: (@mark["roundness"] * driven.fetch("roundness", 1.0)).clamp(0.01, 1.0),
            opacity: (@pigment["opacity"] * driven.fetch("opacity", 1.0)).clamp(0.0, 1.0),
            flow: (@pigment["flow"] * driven.fetch("flow", 1.0)).clamp(0.0, 1.0),
            depth: @surface ? (@surface["depth"] * driven.fetch("grain depth", 1.0)).clamp(0.0, 1.0) : 0.0)
        end

        def scatter(x, y, direction, size, strength, chance)
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
