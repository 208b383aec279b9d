# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # The stroke as it builds up, pixel by pixel: flow adds, opacity is the ceiling.
      #
      #   A ← A + m · flow · max(0, c − A)
      #
      # With a constant ceiling this is source-over (Porter & Duff 1984).
      class Layer
        # @return [Numo::SFloat] height × width, the stroke's alpha 0–1
        attr_reader :alpha

        def initialize(width, height)
          @width = width
          @height = height
          @alpha = Numo::SFloat.zeros(height, width)
          @columns = Numo::SFloat.new(1, width).seq + 0.5
          @rows = Numo::SFloat.new(height, 1).seq + 0.5
        end

        # @param dabs [Array<Dabs::Dab>] in page pixels
        # @param tip [RoundTip, PictureTip]
        # @param grain [Grain, nil]
        # @return [self]
        def lay(dabs, tip, grain = nil)
          dabs.each { lay_one(_1, tip, grain) }
          self
        end

        private

        def lay_one(dab, tip, grain)
          reach = tip.reach(dab)
          left, right = span(dab.x, reach, @width)
          top, bottom = span(dab.y, reach, @height)
          return if left >= right || top >= bottom
          cover = tip.cover(dab, @columns[true, left...right] - dab.x, @rows[top...bottom, true] - dab.y)
          cover = cover.inplace * grain.left_over(dab, left, top, right - left, bottom - top) if grain
          build(@alpha[top...bottom, left...right], cover.out_of_place!, dab)
        end

        def span(centre, reach, most) = [(centre - reach).floor.clamp(0, most), (centre + reach).ceil.clamp(0, most)]

        # Works in the memory at hand: this is where a stroke spends its time.
        def build(patch, cover, dab)
          room = (dab.opacity - patch).inplace.clip(0, 1) * cover
          room *= dab.flow unless dab.flow == 1
          patch.store(patch.inplace + room.out_of_place!)
        end
      end
    end
  end
end
