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
          part = part(dabs, tip)
          @under, @carried, @paint = Array.new(3) { Numo::SFloat.zeros(4, *part.map(&:size)) }
          Batch.each(dabs, tip, part:) do |batch|
            cover = tip.cover(batch)
            batch.dabs.each_with_index do |dab, index|
              Clock.tick
              left = batch.lefts[index]
              top = batch.tops[index]
              there, here = spot(left, top)
              pick_up(dab, there, here, first: dab.equal?(dabs.first))
              next unless there
              mix(dab, colour, own_paint)
              share = cover[index, true, true]
              share = (share.inplace * grain.transmittance(dab, left, top, *share.shape.reverse)).out_of_place! if grain
              put_down(there, here, (share.inplace * dab.flow).out_of_place!)
            end
          end
          (0..3).map { @page[_1, true, true].dup }
        end

        private

        # Where dabs differ in nothing but their place, what the first does not cover nor its neighbours, none covers.
        #
        # @return [Array(Range, Range)] rows and columns that matter, see Batch.new
        def part(dabs, tip)
          side = dabs.map { Batch.side(_1, tip) }.max || 1
          half = side / 2
          shapes = dabs.map { [_1.size, _1.angle, _1.roundness, _1.frame] }.uniq
          return [-half..half] * 2 unless shapes.size == 1
          cover = tip.cover(Batch.new(dabs.first(1), side))[0, true, true]
          [1, 0].map { |axis|
            marked = cover.max(axis).gt(0).where
            marked.size.zero? ? 0..0 : [marked.min - 2, 0].max - half..[marked.max + 2, side - 1].min - half
          }
        end

        # @return [Array(Numo::SFloat, Array<Range>)] the part of the page that a patch covers, and what of the patch
        #   lies on it, where that is not all; nothing where none does
        def spot(left, top)
          _, tall, wide = @under.shape
          rows = top.clamp(0, @height)...(top + tall).clamp(0, @height)
          columns = left.clamp(0, @width)...(left + wide).clamp(0, @width)
          return if rows.size.zero? || columns.size.zero?
          there = @page[true, rows, columns]
          return [there, nil] if rows.size == tall && columns.size == wide
          [there, [(rows.begin - top)...(rows.end - top), (columns.begin - left)...(columns.end - left)]]
        end

        # What is carried from now on; beyond the page's edge lies nothing. New memory for each dab would cost more than
        # the sums.
        def pick_up(dab, there, here, first:)
          if there && here.nil? then @under.store(there)
          else
            @under.fill(0)
            @under[true, *here] = there if there
          end
          ((@under.inplace - @carried) * dab.mix + @carried).out_of_place! unless first
          @under, @carried = @carried, @under
        end

        # What is carried, and the brush's own paint in it.
        def mix(dab, colour, own_paint)
          @paint.store(@carried)
          return if own_paint.zero?
          own = [1.0, *colour.shift(dab.hue, dab.saturation, dab.lightness).parts].map { _1 * dab.opacity * own_paint }
          (@paint.inplace * (1 - own_paint) + Numo::SFloat.cast(own).reshape(4, 1, 1)).out_of_place!
        end

        def put_down(there, here, share)
          paint, share = here ? [@paint[true, *here], share[*here]] : [@paint, share]
          change = (paint.inplace - there) * share.reshape(1, *share.shape)
          there.inplace + change.out_of_place!
        end
      end
    end
  end
end
