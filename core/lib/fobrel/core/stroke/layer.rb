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
            if !even then each_patch(batch, tip.cover(batch), grain) { |*patch| build(*patch) }
            elsif grain then each_patch(batch, tip.cover(batch), grain) { |*patch| thin(*patch) }
            elsif batch.side <= SMALL then sum(batch, tip.through(batch))
            else each_patch(batch, tip.through(batch)) { |patch, _, rows, columns| let_through(patch, rows, columns) }
            end
          end
          return @alpha unless even
          mix_in_logs
          ((@through.inplace * -1 + 1) * (dabs.first&.opacity || 0.0)).out_of_place!
        end

        private

        # The dabs' patches as far as they lie on the page, with the grain in them.
        def each_patch(batch, cover, grain = nil)
          batch.dabs.each_with_index do |dab, index|
            Clock.tick
            left, right, top, bottom = inside(batch, index)
            next if left >= right || top >= bottom
            x = batch.lefts[index]
            y = batch.tops[index]
            patch = cover[index, (top - y)...(bottom - y), (left - x)...(right - x)]
            patch = patch.inplace * grain.transmittance(dab, left, top, right - left, bottom - top) if grain
            yield patch.out_of_place!, dab, top...bottom, left...right
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

        # A view of the page that is worked on in place changes the page.
        def let_through(patch, rows, columns) = @through[rows, columns].inplace * patch

        def thin(patch, dab, rows, columns)
          let_through((patch.inplace * -dab.flow + 1).out_of_place!, rows, columns)
        end

        def build(patch, dab, rows, columns)
          alpha = @alpha[rows, columns]
          room = (dab.opacity - alpha).inplace.clip(0, 1) * patch
          alpha.inplace + (room * dab.flow).out_of_place!
        end

        # Adds up the logarithms of a batch of small dabs, on the part of the page that they lie on and a margin of one
        # patch around it.
        def sum(batch, through)
          side = batch.side
          left = batch.lefts.map { _1.clamp(-side, @width) }
          top = batch.tops.map { _1.clamp(-side, @height) }
          x, x_end = left.minmax
          y, y_end = top.minmax
          wide = x_end - x + side
          tall = y_end - y + side
          logs = Numo::SFloat::Math.log(through.inplace.clip(OPAQUE, 1)).out_of_place!
          corner = Numo::Int32.cast(top.zip(left).map { |row, column| (row - y) * wide + column - x })
          steps = Numo::Int32.new(side, 1).seq * wide + Numo::Int32.new(1, side).seq
          sums = (corner.reshape(batch.dabs.size, 1, 1) + steps.reshape(1, side, side)).flatten
            .bincount(logs.flatten, minlength: wide * tall).reshape(tall, wide)
          add_logs(sums, x, y)
        end

        def add_logs(sums, x, y)
          tall, wide = sums.shape
          rows = y.clamp(0, @height)...(y + tall).clamp(0, @height)
          columns = x.clamp(0, @width)...(x + wide).clamp(0, @width)
          return if rows.size.zero? || columns.size.zero?
          @logs ||= Numo::DFloat.zeros(@height, @width)
          @touched = [rows, columns].zip(@touched || [rows, columns]).map { |one, other|
            [one.begin, other.begin].min...[one.end, other.end].max
          }
          here = sums[(rows.begin - y)...(rows.end - y), (columns.begin - x)...(columns.end - x)]
          @logs[rows, columns].inplace + here
        end

        def mix_in_logs
          return unless @logs
          @through[*@touched].inplace * Numo::SFloat.cast(Numo::DFloat::Math.exp(@logs[*@touched]))
        end
      end
    end
  end
end
