# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # Paint that moves: each dab picks up what lies under it and puts it down again, mixed with
      # its own. With no paint of its own a blank page stays blank.
      class WetLayer
        # @param ground [Array<Numo::SFloat>] alpha, then premultiplied red, green, blue of what
        #   lies on the page
        def initialize(ground)
          @height, @width = ground.first.shape
          @page = Numo::SFloat.zeros(4, @height, @width)
          ground.each_with_index { |plane, index| @page[index, true, true] = plane }
        end

        # @param dabs [Array<Dabs::Dab>] in page pixels; mix is how much of what lies under a dab
        #   it picks up
        # @param tip [RoundTip, PictureTip]
        # @param grain [Grain, nil]
        # @param colour [Colour] of the brush's own paint
        # @param own_paint [Float] 0–1, how much of what is put down is the brush's own
        # @return [Array<Numo::SFloat>] the page after it: alpha, then premultiplied colour
        def lay(dabs, tip, grain, colour, own_paint)
          side = 2 * (dabs.map { tip.reach(_1) }.max || 0).ceil + 1
          carried = nil
          dabs.each do |dab|
            Clock.tick
            batch = Batch.new([dab], side)
            left = batch.lefts.first
            top = batch.tops.first
            under = patch(left, top, side)
            carried = carried ? ((under.inplace - carried) * dab.mix + carried).out_of_place! : under
            cover = tip.cover(batch)[0, true, true]
            cover *= grain.transmittance(dab, left, top, side, side) if grain
            put_down(
              left,
              top,
              side,
              cover * dab.flow,
              own_paint.zero? ? carried : mixed(carried, dab, colour, own_paint)
            )
          end
          (0..3).map { @page[_1, true, true].dup }
        end

        private

        def mixed(carried, dab, colour, own_paint)
          own = [1.0, *colour.shift(dab.hue, dab.saturation, dab.lightness).parts].map { _1 * dab.opacity * own_paint }
          carried * (1 - own_paint) + Numo::SFloat.cast(own).reshape(4, 1, 1)
        end

        # A square of the page; beyond its edge lies nothing.
        def patch(left, top, side)
          rows, columns = clipped(left, top, side)
          square = Numo::SFloat.zeros(4, side, side)
          return square if rows.size.zero? || columns.size.zero?
          square[true, (rows.begin - top)...(rows.end - top), (columns.begin - left)...(columns.end - left)] =
            @page[true, rows, columns]
          square
        end

        def clipped(left, top, side)
          [
            top.clamp(0, @height)...(top + side).clamp(0, @height),
            left.clamp(0, @width)...(left + side).clamp(0, @width)
          ]
        end

        def put_down(left, top, side, share, paint)
          rows, columns = clipped(left, top, side)
          return if rows.size.zero? || columns.size.zero?
          here = [(rows.begin - top)...(rows.end - top), (columns.begin - left)...(columns.end - left)]
          there = @page[true, rows, columns]
          change = (paint[true, *here] - there).inplace * share[*here].reshape(1, rows.size, columns.size)
          there.inplace + change.out_of_place!
        end
      end
    end
  end
end
