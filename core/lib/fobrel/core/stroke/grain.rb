# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # The texture that shows through a stroke: it lies on the page (travel 1), is dragged
      # along by the brush (travel 0), or something between.
      class Grain
        # @param cover [Tip::Cover] one seamless tile; black lets the paint through
        # @param surface [Hash] a preset's `surface`
        def initialize(cover, surface)
          scale = surface["scale"]
          side = [cover.width, cover.height].map { (_1 * scale).round.clamp(1, 4000) }
          cover = cover.scale(*side) unless side == [cover.width, cover.height]
          cover = cover.invert if surface["invert"]
          @tile = cover.values
          @dragged = 1 - surface["travel"]
        end

        # What the grain leaves of a dab's cover at each pixel: 1 − depth · (1 − g).
        #
        # @param dab [Dabs::Dab]
        # @param left [Integer] the page's column of the patch's first pixel
        # @param top [Integer] its row
        # @return [Numo::SFloat] height × width
        def left_over(dab, left, top, width, height)
          patch = lerp(rows_of(top - @dragged * dab.y, height, left - @dragged * dab.x, width), height, top - @dragged * dab.y, 0)
          patch = lerp(patch, width, left - @dragged * dab.x, 1)
          1 - (1 - patch) * dab.depth
        end

        private

        # The tiles' pixels around a patch, one more than asked for each way.
        def rows_of(top, height, left, width)
          rows, columns = @tile.shape
          @tile[wrapped(top.floor, height + 1, rows), wrapped(left.floor, width + 1, columns)]
        end

        def wrapped(from, count, size) = (Numo::Int32.new(count).seq + from) % size

        # Between whole pixels the grain is blended, so that a slow drag does not flicker.
        def lerp(patch, count, from, axis)
          near = axis.zero? ? patch[0...count, true] : patch[true, 0...count]
          part = from - from.floor
          return near if part.zero?
          far = axis.zero? ? patch[1..count, true] : patch[true, 1..count]
          near + (far - near) * part
        end
      end
    end
  end
end
