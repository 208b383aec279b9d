# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # A tip made of pictures: each dab is the frame scaled, squeezed, turned and set down at
      # its exact place.
      class PictureTip
        # Single precision counts pixels of a square exactly up to this side.
        LARGEST = 4000

        # One frame at falling sizes, each the area average of the one before.
        class Sizes
          def initialize(cover, greatest)
            cover = cover.square
            side = greatest.ceil.clamp(1, LARGEST)
            levels = [(side == cover.width) ? cover : cover.scale(side, side)]
            levels << levels.last.scale((levels.last.width + 1) / 2, (levels.last.width + 1) / 2) while levels.last.width > 2
            @levels = levels.map { [framed(_1.values).flatten, _1.width] }
          end

          # The smallest copy that is still at least as large as wanted, with a rim of nothing
          # around it so that the edge can be blended.
          #
          # @return [Array(Numo::SFloat, Integer)] the values row by row, and their side without the rim
          def for(size)
            @levels.reverse_each.find { |_, side| side >= size } || @levels.first
          end

          private

          def framed(values)
            side = values.shape[0] + 2
            Numo::SFloat.zeros(side, side).tap { |rim| rim[1..-2, 1..-2] = values }
          end
        end

        # @param covers [Array<Tip::Cover>] the frames
        # @param greatest [Float] the largest size in pixels that will be asked for
        # @param crisp [Boolean] pixels are full or empty
        def initialize(covers, greatest:, crisp: false)
          @frames = covers.map { Sizes.new(_1, greatest) }
          @crisp = crisp
        end

        # The corners of a turned square reach further than its sides.
        def reach(dab) = ((dab.angle % 90).zero? ? 0.5 : Math.sqrt(0.5)) * dab.size + 1

        # @see RoundTip#cover
        def cover(dab, dx, dy)
          values, side = @frames[dab.frame % @frames.size].for(dab.size)
          scale = side / dab.size
          turn = dab.angle * Math::PI / 180
          cos = Math.cos(turn) * scale
          sin = Math.sin(turn) * scale
          middle = side / 2.0 + 0.5
          across = dx * cos - dy * sin + middle
          down = (dx * sin + dy * cos) * (1 / dab.roundness) + middle
          cover = blend(values, across, down, side)
          @crisp ? Numo::SFloat.cast(cover >= 0.5) : cover
        end

        private

        # Bilinear; what lies outside is the rim of nothing.
        def blend(values, across, down, side)
          left, part_x = split(across, side)
          top, part_y = split(down, side)
          at = Numo::Int32.cast(top.inplace * (side + 2) + left)
          upper = between(values, at, part_x)
          lower = between(values, at.inplace + (side + 2), part_x)
          ((lower.inplace - upper) * part_y + upper).out_of_place!
        end

        # Whole pixels, and what is left over.
        def split(place, side)
          place.inplace.clip(0, side + 0.999)
          whole = place.out_of_place!.floor
          [whole, (place.inplace - whole).out_of_place!]
        end

        # From each pixel to its right neighbour.
        def between(flat, at, part)
          here = flat[at.out_of_place!]
          there = flat[at + 1]
          ((there.inplace - here) * part + here).out_of_place!
        end
      end
    end
  end
end
