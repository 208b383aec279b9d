# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # Paint that moves: each dab picks up what lies under it and puts it down again, mixed with
      # its own. With no charge of its own a blank page stays blank.
      class WetLayer
        # @param ground [Array<Numo::SFloat>] alpha, then premultiplied red, green, blue of what
        #   lies on the page
        def initialize(ground)
          @planes = ground.map(&:dup)
          @height, @width = ground.first.shape
        end

        # @param dabs [Array<Dabs::Dab>] in page pixels; mix is how much of what lies under a dab
        #   it picks up
        # @param tip [RoundTip, PictureTip]
        # @param grain [Grain, nil]
        # @param colour [Colour] of the brush's own paint
        # @param charge [Float] 0–1, how much of what is put down is the brush's own
        # @return [Array<Numo::SFloat>] the page after it: alpha, then premultiplied colour
        def lay(dabs, tip, grain, colour, charge)
          return @planes if dabs.empty?
          side = 2 * dabs.map { tip.reach(_1) }.max.ceil + 1
          carried = nil
          dabs.each do |dab|
            batch = Batch.new([dab], side)
            x = batch.lefts.first
            y = batch.tops.first
            under = @planes.map { patch(_1, x, y, side) }
            carried = carried ? carried.zip(under).map { |old, fresh| old + (fresh - old) * dab.mix } : under
            cover = tip.cover(batch)[0, true, true]
            cover *= grain.left_over(dab, x, y, side, side) if grain
            own = [1.0, *colour.shift(dab.hue, dab.saturation, dab.lightness).parts]
            put_down(x, y, side, cover * dab.flow, carried.zip(own).map { |old, part| old * (1 - charge) + part * dab.opacity * charge })
          end
          @planes
        end

        private

        # A square of the page; beyond its edge lies nothing.
        def patch(plane, left, top, side)
          square = Numo::SFloat.zeros(side, side)
          rows, columns = clipped(left, top, side)
          return square if rows.size.zero? || columns.size.zero?
          square[(rows.begin - top)...(rows.end - top), (columns.begin - left)...(columns.end - left)] = plane[rows, columns]
          square
        end

        def clipped(left, top, side)
          [top.clamp(0, @height)...(top + side).clamp(0, @height), left.clamp(0, @width)...(left + side).clamp(0, @width)]
        end

        def put_down(left, top, side, share, paint)
          rows, columns = clipped(left, top, side)
          return if rows.size.zero? || columns.size.zero?
          here = [(rows.begin - top)...(rows.end - top), (columns.begin - left)...(columns.end - left)]
          part = share[*here]
          @planes.zip(paint).each do |plane, carried|
            there = plane[rows, columns]
            there.store(there + (carried[*here] - there) * part)
          end
        end
      end
    end
  end
end
