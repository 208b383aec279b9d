# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # The texture that shows through a stroke: it lies on the page (travel 1), is dragged
      # along by the brush (travel 0), or something between.
      class Grain
        # Tiles used last at their size; a slider asks for the same ones again.
        TILES = LruCache.new(16 * 1024 * 1024, &:byte_size)
        # A page up to this many pixels is covered with a lying grain once, for all dabs.
        PAGE = 1_000_000
        private_constant :TILES

        # @param cover [Tip::Cover] one seamless tile; black lets the paint through
        # @param surface [Hash] a preset's `grain`
        # @param name [String] what the tile's content is known by, for keeping it
        # @param page [Array(Integer, Integer)] width and height in pixels
        def initialize(cover, surface, name:, page: [0, 0])
          @tile = TILES.fetch([name, surface["scale"], surface["invert"]]) { tile(cover, surface) }
          @dragged = 1 - surface["travel"]
          @page = page
        end

        # What the grain leaves of a dab's cover at each pixel: 1 − depth · (1 − g).
        #
        # @param dab [Dabs::Dab]
        # @param left [Integer] the page's column of the patch's first pixel
        # @param top [Integer] its row
        # @return [Numo::SFloat] height × width
        def transmittance(dab, left, top, width, height)
          return lessened(@lying[top...(top + height), left...(left + width)], dab) if lying?(left, top, width, height)
          patch = lerp(
            rows_of(top - @dragged * dab.y, height, left - @dragged * dab.x, width),
            height,
            top - @dragged * dab.y,
            0
          )
          patch = lerp(patch, width, left - @dragged * dab.x, 1)
          lessened(patch, dab)
        end

        private

        def tile(cover, surface)
          side = [cover.width, cover.height].map { (_1 * surface["scale"]).round.clamp(1, 4000) }
          cover = cover.scale(*side) unless side == [cover.width, cover.height]
          (surface["invert"] ? cover.invert : cover).values
        end

        def lessened(patch, dab) = ((patch * dab.depth).inplace + (1 - dab.depth)).out_of_place!

        # Whether the patch can be cut from the grain as it lies on the whole page.
        def lying?(left, top, width, height)
          wide, tall = @page
          return false unless @dragged.zero? && wide * tall <= PAGE
          return false unless left >= 0 && top >= 0 && left + width <= wide && top + height <= tall
          @lying ||= @tile[wrapped(0, tall, @tile.shape[0]), wrapped(0, wide, @tile.shape[1])]
        end

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
