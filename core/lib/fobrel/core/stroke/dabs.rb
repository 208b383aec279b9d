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

        # @param preset [Preset::Preset]
        def initialize(preset)
          @mark = preset["tip"]
          @stroke = preset["stroke"]
          @paint = preset["paint"]
          @surface = preset["grain"]
          @hung = preset["method"] == "garland"
          @responses = preset["response"].map { |setting| Response.new(setting) }
          @reel = Reel.new(preset)
        end

        # @param path [Path]
        # @param seed [Integer] the same seed gives the same dabs everywhere
        # @return [Array<Dab>] in the order they are laid
        # @raise [TooMany]
        def along(path, seed: 1)
          chance = Random.new(seed)
          walk = Walk.new(path, @responses, chance)
          strays = []
          frames = []
          walk.go(size: method(:size), step: method(:step)) do
            @stroke["marks_per_step"].times do
              strays << stray(chance)
              frames << @reel.frame(frames.size, frames.last, walk, chance)
            end
            check(frames.size)
          end
          dabs(walk, strays, frames)
        end

        private

        def check(count)
          return if count <= MOST
          raise TooMany, "This stroke would take more than #{MOST} dabs. Widen the spacing or shorten the stroke."
        end

        # Drawings of a garland hang at one distance, however large each is.
        def step(size) = [@stroke["spacing"] * (@hung ? @mark["size"]["base"] : size), CLOSEST].max

        def size(driven)
          size = @mark["size"]
          (size["base"] * (driven || 1.0)).clamp(size["minimum"], [size["maximum"], size["minimum"]].max)
        end

        # How far a dab strays across the way and along it, as a share −1–1 of what it may; nil where none does.
        def stray(chance)
          return if @stroke["scatter"]["across"].zero? && @stroke["scatter"]["along"].zero?
          [chance.rand * 2 - 1, chance.rand * 2 - 1]
        end

        # Columns stop by stop, as many dabs at each as the count says.
        def dabs(walk, strays, frames)
          count = @stroke["marks_per_step"]
          columns = columns(walk)
          scatter = walk.column("scatter")
          frames.each_with_index.map do |frame, index|
            stop = index / count
            x, y = strayed(walk.places[stop], walk.sizes[stop], strays[index], scatter ? scatter[stop] : 1.0)
            size, angle, roundness, opacity, flow, depth, hue, saturation, lightness, mix =
              columns.map { |column| column[stop] }
            Dab.new(x, y, size, angle, roundness, opacity, flow, frame, depth, hue, saturation, lightness, mix)
          end
        end

        def columns(walk)
          [
            walk.sizes,
            angles(walk),
            held(walk, "roundness", @mark["roundness"], least: 0.01),
            held(walk, "opacity", @paint["opacity"]),
            held(walk, "flow", @paint["flow"]),
            @surface ? held(walk, "grain depth", @surface["depth"]) : Always.new(0.0),
            *%w[hue saturation lightness].map { |name| walk.column(name) || Always.new(0.0) },
            held(walk, "mix", @paint["mix"])
          ]
        end

        # A column that is the same everywhere.
        Always = Struct.new(:value) do
          def [](_) = value
        end
        private_constant :Always

        # What multiplies a share, held within what it may be.
        def held(walk, drives, base, least: 0.0)
          driven = walk.column(drives)
          return Always.new(base.to_f.clamp(least, 1.0)) unless driven
          driven.map { |factor| (base * factor).clamp(least, 1.0) }
        end

        def angles(walk)
          driven = walk.column("angle")
          return Always.new(@mark["angle"] + 0.0) unless driven || @hung
          walk.places.each_with_index.map do |place, stop|
            turn = @hung ? place.direction * 180 / Math::PI : 0.0
            @mark["angle"] + turn + (driven ? driven[stop] : 0.0)
          end
        end

        def strayed(place, size, stray, strength)
          return [place.x, place.y] unless stray
          sideways = stray[0] * @stroke["scatter"]["across"] * size * strength
          onward = stray[1] * @stroke["scatter"]["along"] * size * strength
          cos = Math.cos(place.direction)
          sin = Math.sin(place.direction)
          [place.x + cos * onward - sin * sideways, place.y - sin * onward - cos * sideways]
        end
      end
    end
  end
end
