# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # A stroke whose dabs differ in colour: each pixel keeps its alpha and its premultiplied
      # colour. Flow and ceiling work as in Layer; a dab replaces the colour under it by as much
      # as it covers.
      class ColourLayer
        # @param width [Integer] pixels
        # @param height [Integer] pixels
        def initialize(width, height)
          @width = width
          @height = height
          @planes = Array.new(4) { Numo::SFloat.zeros(height, width) }
          @rooms = Rooms.new
        end

        # @param dabs [Array<Dabs::Dab>] in page pixels
        # @param tip [RoundTip, PictureTip]
        # @param grain [Grain, nil]
        # @param colour [Colour] of dabs that are not shifted and bring none of their own
        # @return [Array<Numo::SFloat>] alpha, then premultiplied red, green, blue
        def lay(dabs, tip, grain, colour)
          shifts = Hash.new { |known, shift| known[shift] = colour.shift(*shift).parts }
          Batch.each(dabs, tip) do |batch|
            own = tip.own_colours?
            planes = own ? tip.paint(batch) : [tip.cover(batch)]
            batch.dabs.each_with_index do |dab, index|
              rows, columns, here = place(batch, index)
              next unless rows
              patches = planes.map { _1[index, *here] }
              if grain
                left = grain.transmittance(dab, columns.begin, rows.begin, columns.size, rows.size)
                patches = patches.map { |patch| (patch.inplace * left).out_of_place! }
              end
              parts = shifts[[dab.hue, dab.saturation, dab.lightness]] unless own
              set_down(dab, rows, columns, patches, parts)
            end
          end
          @planes
        end

        private

        def place(batch, index)
          x = batch.lefts[index]
          y = batch.tops[index]
          left, right = [x, x + batch.side].map { _1.clamp(0, @width) }
          top, bottom = [y, y + batch.side].map { _1.clamp(0, @height) }
          return if left >= right || top >= bottom
          [top...bottom, left...right, [(top - y)...(bottom - y), (left - x)...(right - x)]]
        end

        # P ← P · (1 − k) + paint · flow · c, with k = m · flow, less where the dab's ceiling
        # lies below what is there; so A ← A · (1 − k) + m · flow · c is the rule for flow and
        # ceiling as long as A ≤ c, and leaves A where it is beyond.
        #
        # @param patches [Array<Numo::SFloat>] cover, and premultiplied colour where the tip brings its own
        # @param parts [Array<Float>, nil] red, green and blue where it does not
        def set_down(dab, rows, columns, patches, parts)
          there = @planes.map { _1[rows, columns] }
          cover = patches.first
          ceiling = @rooms.copy(:ceiling, there.first).inplace.clip(dab.opacity + 1e-9, nil).out_of_place!
          keep = @rooms.copy(:keep, cover).inplace / ceiling
          keep = (keep * (-dab.flow * dab.opacity) + 1).out_of_place!
          laid = dab.flow * dab.opacity
          there.each_with_index do |plane, index|
            more = if parts then @rooms.copy(:more, cover).inplace * (index.zero? ? laid : laid * parts[index - 1])
            else patches[index].inplace * laid
            end
            plane.inplace * keep + more.out_of_place!
          end
        end
      end
    end
  end
end
