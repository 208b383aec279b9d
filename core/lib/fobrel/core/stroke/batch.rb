# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # Dabs computed together: their square patches of the page, side by side in one array.
      # Much of a small dab's cost is the call, not the pixels; a batch shares it.
      class Batch
        # Pixels computed at once: enough to share the calls, few enough for the processor's cache.
        PIXELS = 24_000

        # @return [Array<Dabs::Dab>]
        attr_reader :dabs
        # @return [Integer] pixels a side of each patch
        attr_reader :side
        # @return [Array<Integer>] the page's column and row of each patch's first pixel
        attr_reader :lefts, :tops

        # Splits dabs into batches, in order.
        #
        # @param dabs [Array<Dabs::Dab>]
        # @param tip [RoundTip, PictureTip] asked how far each dab reaches
        # @param part [Array(Range, Range), nil] see .new; where there is none, a batch has what its widest dab needs
        # @yieldparam batch [Batch]
        def self.each(dabs, tip, part: nil)
          waiting = []
          side = 0
          dabs.each do |dab|
            own = part ? 0 : side(dab, tip)
            wider = [side, own].max
            Clock.tick
            pixels = part ? part.map(&:size).inject(:*) : wider * wider
            if waiting.any? && (pixels * (waiting.size + 1) > PIXELS || !tip.together?(waiting.last, dab))
              yield new(waiting, side, part:)
              waiting = []
              wider = own
            end
            waiting << dab
            side = wider
          end
          yield new(waiting, side, part:) if waiting.any?
        end

        # @return [Integer] pixels that the patch of a dab needs a side
        def self.side(dab, tip) = 2 * tip.reach(dab).ceil + 1

        # @param side [Integer] pixels of a patch with the dab's centre in its middle
        # @param part [Array(Range, Range), nil] rows and columns instead, counted from the pixel that a centre lies in
        def initialize(dabs, side, part: nil)
          @dabs = dabs
          @side = side
          half = side / 2
          @rows, @columns = part || [-half...(side - half)] * 2
          @lefts = dabs.map { _1.x.floor + @columns.begin }
          @tops = dabs.map { _1.y.floor + @rows.begin }
        end

        # @return [Array<Integer>] dabs, rows, columns
        def shape = [dabs.size, @rows.size, @columns.size]

        # @return [Numo::SFloat] dabs × 1 × columns: pixel centres from each dab's centre, to the right
        def dx = @dx ||= offsets(dabs.map(&:x), @columns).reshape(dabs.size, 1, @columns.size)

        # @return [Numo::SFloat] dabs × rows × 1: the same, downwards
        def dy = @dy ||= offsets(dabs.map(&:y), @rows).reshape(dabs.size, @rows.size, 1)

        # @yieldparam dab [Dabs::Dab]
        # @return [Numo::SFloat] dabs × 1 × 1
        def each_dab(&) = Numo::SFloat.cast(dabs.map(&)).reshape(dabs.size, 1, 1)

        # @param cover [Numo::SFloat] dabs × side × side; it is written into
        # @return [Numo::SFloat] what each dab lets through: 1 − flow · cover
        def through(cover) = (cover.inplace * each_dab { -_1.flow } + 1).out_of_place!

        private

        # Counted from the pixel that each centre lies in, so that they are the same in any patch.
        def offsets(centres, range)
          parts = Numo::SFloat.cast(centres.map { |centre| 0.5 - (centre - centre.floor) })
          parts.reshape(dabs.size, 1) + (Numo::SFloat.new(1, range.size).seq + range.begin)
        end
      end
    end
  end
end
