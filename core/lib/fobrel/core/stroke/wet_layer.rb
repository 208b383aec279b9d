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
          side = dabs.map { Batch.side(_1, tip) }.max || 1
          @under, @carried, @paint = Array.new(3) { Numo::SFloat.zeros(4, side, side) }
          Batch.each(dabs, tip, side:) do |batch|
            cover = tip.cover(batch)
            batch.dabs.each_with_index do |dab, index|
              Clock.tick
              left = batch.lefts[index]
              top = batch.tops[index]
              pick_up(dab, left, top, side, first: dab.equal?(dabs.first))
              mix(dab, colour, own_paint)
              share = cover[index, true, true]
              share = (share.inplace * grain.transmittance(dab, left, top, side, side)).out_of_place! if grain
              put_down(left, top, side, (share.inplace * dab.flow).out_of_place!)
            end
          end
          (0..3).map { @page[_1, true, true].dup }
        end

        private

        # What is carried from now on; new memory for each dab would cost more than the sums.
        def pick_up(dab, left, top, side, first:)
          look_under(left, top, side)
          ((@under.inplace - @carried) * dab.mix + @carried).out_of_place! unless first
          @under, @carried = @carried, @under
        end

        # A square of the page; beyond its edge lies nothing.
        def look_under(left, top, side)
          rows, columns, *here = clipped(left, top, side)
          @under.fill(0) if rows.size < side || columns.size < side
          @under[true, *here] = @page[true, rows, columns] unless rows.size.zero? || columns.size.zero?
        end

        # What is carried, and the brush's own paint in it.
        def mix(dab, colour, own_paint)
          @paint.store(@carried)
          return if own_paint.zero?
          own = [1.0, *colour.shift(dab.hue, dab.saturation, dab.lightness).parts].map { _1 * dab.opacity * own_paint }
          (@paint.inplace * (1 - own_paint) + Numo::SFloat.cast(own).reshape(4, 1, 1)).out_of_place!
        end

        # @return [Array<Range>] rows and columns of the page that a square covers, and of the square what lies on it
        def clipped(left, top, side)
          rows = top.clamp(0, @height)...(top + side).clamp(0, @height)
          columns = left.clamp(0, @width)...(left + side).clamp(0, @width)
          [rows, columns, (rows.begin - top)...(rows.end - top), (columns.begin - left)...(columns.end - left)]
        end

        def put_down(left, top, side, share)
          rows, columns, *here = clipped(left, top, side)
          return if rows.size.zero? || columns.size.zero?
          there = @page[true, rows, columns]
          change = (@paint[true, *here].inplace - there) * share[*here].reshape(1, rows.size, columns.size)
          there.inplace + change.out_of_place!
        end
      end
    end
  end
end
