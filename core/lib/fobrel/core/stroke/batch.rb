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
        # @param side [Integer, nil] of every patch, where all have one; the widest of a batch by itself
        # @yieldparam batch [Batch]
        def self.each(dabs, tip, side: nil)
          waiting = []
          fixed = side
          side = fixed || 0
          dabs.each do |dab|
            own = fixed || side(dab, tip)
            wider = [side, own].max
            Clock.tick
            if waiting.any? && (wider * wider * (waiting.size + 1) > PIXELS || !tip.together?(waiting.last, dab))
              yield new(waiting, side)
              waiting = []
              wider = own
            end
            waiting << dab
            side = wider
          end
          yield new(waiting, side) if waiting.any?
        end

        # @return [Integer] pixels that the patch of a dab needs a side
        def self.side(dab, tip) = 2 * tip.reach(dab).ceil + 1

        def initialize(dabs, side)
          @dabs = dabs
          @side = side
          half = side / 2
          @lefts = dabs.map { _1.x.floor - half }
          @tops = dabs.map { _1.y.floor - half }
        end

        # @return [Array<Integer>] dabs, side, side
        def shape = [dabs.size, side, side]

        # @return [Numo::SFloat] dabs × 1 × side: pixel centres from each dab's centre, to the right
        def dx = @dx ||= offsets(dabs.map(&:x)).reshape(dabs.size, 1, side)

        # @return [Numo::SFloat] dabs × side × 1: the same, downwards
        def dy = @dy ||= offsets(dabs.map(&:y)).reshape(dabs.size, side, 1)

        # @yieldparam dab [Dabs::Dab]
        # @return [Numo::SFloat] dabs × 1 × 1
        def each_dab(&) = Numo::SFloat.cast(dabs.map(&)).reshape(dabs.size, 1, 1)

        # @param cover [Numo::SFloat] dabs × side × side; it is written into
        # @return [Numo::SFloat] what each dab lets through: 1 − flow · cover
        def through(cover) = (cover.inplace * each_dab { -_1.flow } + 1).out_of_place!

        private

        # Counted from the pixel that each centre lies in, so that they are the same in a patch of any side.
        def offsets(centres)
          parts = Numo::SFloat.cast(centres.map { |centre| 0.5 - (centre - centre.floor) })
          parts.reshape(dabs.size, 1) + (Numo::SFloat.new(1, side).seq - side / 2)
        end
      end
    end
  end
end
