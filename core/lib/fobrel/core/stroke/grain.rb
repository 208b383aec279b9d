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
          rows, columns = @tile.shape
          from_x = left - (@dragged * dab.x).round
          from_y = top - (@dragged * dab.y).round
          patch = @tile[wrapped(from_y, height, rows), wrapped(from_x, width, columns)]
          1 - (1 - patch) * dab.depth
        end

        private

        def wrapped(from, count, size) = (Numo::Int32.new(count).seq + from) % size
      end
    end
  end
end
