# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # The stroke as it builds up, pixel by pixel: flow adds, opacity is the ceiling.
      #
      #   A ← A + m · flow · max(0, c − A)
      #
      # With one ceiling c this is source-over (Porter & Duff 1984), and what a pixel still lets
      # through, 1 − A/c, is the product of (1 − m · flow) over all dabs; small dabs are then
      # summed as logarithms, a whole batch at a time.
      class Layer
        # Patches up to this side are summed as logarithms.
        SMALL = 26
        # Lets nothing through any more.
        OPAQUE = 1e-9

        # @param width [Integer] pixels
        # @param height [Integer] pixels
        def initialize(width, height)
          @width = width
          @height = height
        end

        # @param dabs [Array<Dabs::Dab>] in page pixels
        # @param tip [RoundTip, PictureTip]
        # @param grain [Grain, nil]
        # @return [Numo::SFloat] height × width, the stroke's alpha 0–1
        def lay(dabs, tip, grain = nil)
          even = dabs.all? { _1.opacity == dabs.first.opacity }
          @through = Numo::SFloat.ones(@height, @width) if even
          @alpha = Numo::SFloat.zeros(@height, @width) unless even
          Batch.each(dabs, tip) do |batch|
            cover = tip.cover(batch)
            if even && batch.side <= SMALL && !grain then sum(batch, cover)
            else each_patch(batch, cover, grain) { |patch, dab, rows, columns|
                   even ? thin(patch, dab, rows, columns) : build(patch, dab, rows, columns)
                 }
            end
          end
          return @alpha unless even
          let_through = @logs ? @through * Numo::SFloat.cast(Numo::DFloat::Math.exp(@logs)) : @through
          (1 - let_through) * (dabs.first&.opacity || 0.0)
        end

        private

        # The dabs' patches as far as they lie on the page, with the grain in them.
        def each_patch(batch, cover, grain)
          batch.dabs.each_with_index do |dab, index|
            Clock.tick
            left, right, top, bottom = inside(batch, index)
            next if left >= right || top >= bottom
            x = batch.lefts[index]
            y = batch.tops[index]
            patch = cover[index, (top - y)...(bottom - y), (left - x)...(right - x)]
            if grain
              patch = (patch.inplace * grain.transmittance(
                dab,
                left,
                top,
                right - left,
                bottom - top
              )).out_of_place!
            end
            yield patch, dab, top...bottom, left...right
          end
        end

        def inside(batch, index)
          left = batch.lefts[index]
          top = batch.tops[index]
          [
            left.clamp(0, @width),
            (left + batch.side).clamp(0, @width),
            top.clamp(0, @height),
            (top + batch.side).clamp(0, @height)
          ]
        end

        def thin(patch, dab, rows, columns)
          through = @through[rows, columns]
          through.store(through.inplace * (patch.inplace * -dab.flow + 1))
        end

        def build(patch, dab, rows, columns)
          alpha = @alpha[rows, columns]
          room = (dab.opacity - alpha).inplace.clip(0, 1) * patch
          alpha.store(alpha.inplace + (room * dab.flow).out_of_place!)
        end

        # Adds up the logarithms of a batch of small dabs on a page with a margin of one patch.
        def sum(batch, cover)
          margin = batch.side
          wide = @width + 2 * margin
          left = batch.lefts.map { _1.clamp(-margin, @width) }
          top = batch.tops.map { _1.clamp(-margin, @height) }
          flow = batch.each_dab { -_1.flow }
          logs = Numo::SFloat::Math.log((cover.inplace * flow + 1).clip(OPAQUE, 1)).out_of_place!
          corner = Numo::Int32.cast(
            top.zip(left).map { |y, x|
              (y + margin) * wide + x + margin
            }
          ).reshape(batch.dabs.size, 1, 1)
          steps = Numo::Int32.new(margin, 1).seq * wide + Numo::Int32.new(1, margin).seq
          sums = (corner + steps.reshape(1, margin, margin)).flatten.bincount(
            logs.flatten,
            minlength: wide * (@height + 2 * margin)
          )
          page = sums.reshape(@height + 2 * margin, wide)[margin...(margin + @height), margin...(margin + @width)]
          @logs = @logs ? (@logs.inplace + page).out_of_place! : page.dup
        end
      end
    end
  end
end
