# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # The computed tip: a disc with a hard or soft edge.
      class RoundTip
        # @param hardness [Float] 0 soft all the way in, 1 a solid edge
        # @param crisp [Boolean] pixels are full or empty
        def initialize(hardness:, crisp: false)
          @hardness = hardness
          @crisp = crisp
        end

        # @return [Boolean] a round tip takes the stroke's colour
        def own_colours? = false

        # How far from its centre a dab can reach, in pixels.
        def reach(dab) = dab.size / 2.0 + 1

        # @return [Boolean] whether two dabs can be computed in one batch
        def together?(one, other) = narrow?(one) == narrow?(other) && (one.roundness < 1) == (other.roundness < 1)

        # Works in place throughout: new memory costs more than the sums.
        #
        # @param batch [Batch]
        # @return [Numo::SFloat] dabs × side × side, cover 0–1; the caller may write into it
        def cover(batch)
          first = batch.dabs.first
          radius = batch.each_dab { _1.size / 2.0 }
          distance = (first.roundness < 1) ? squeezed(batch, radius, narrow?(first)) : apart(batch.dx, batch.dy)
          cover = edge(distance, radius, narrow?(first))
          @crisp ? Numo::SFloat.cast(cover >= 0.5) : cover
        end

        # The tip by itself, not yet squeezed or turned.
        #
        # @param side [Integer] px, even
        # @return [Tip::Cover]
        def picture(side)
          dab = Dabs::Dab.new(side / 2.0, side / 2.0, side, 0.0, 1.0)
          Tip::Cover[cover(Batch.new([dab], side))[0, true, true].dup]
        end

        private

        def narrow?(dab) = dab.size / 2.0 * (1 - @hardness) < 1

        def apart(dx, dy) = Numo::SFloat::Math.sqrt((dx * dx + dy * dy).inplace).out_of_place!

        # 1 up to the hard core, 0 from the rim on, 1 − smoothstep between; an edge narrower
        # than a pixel is spread over one, so that it does not show steps.
        def edge(distance, radius, narrow)
          t = distance.inplace
          return (t * -1 + (radius * ((@hardness + 1) / 2) + 0.5)).clip(0, 1).out_of_place! if narrow
          t = ((t - radius * @hardness) * (1 / (radius * (1 - @hardness)))).clip(0, 1).out_of_place!
          rest = (t * -2).inplace + 3
          (t.inplace * t * rest * -1 + 1).out_of_place!
        end

        # For an ellipse: the distance along the steepest way to its rim (first order), so that
        # a narrow edge is as wide at its ends as at its sides.
        def squeezed(batch, radius, narrow)
          cos = batch.each_dab { Math.cos(_1.angle * Math::PI / 180) }
          sin = batch.each_dab { Math.sin(_1.angle * Math::PI / 180) }
          thin = batch.each_dab { 1 / _1.roundness }
          dx = batch.dx
          dy = batch.dy
          u = dx * cos - dy * sin
          v = dx * (sin * thin) + dy * (cos * thin)
          u = (u.inplace * u).out_of_place!
          v = (v.inplace * v).out_of_place!
          level = Numo::SFloat::Math.sqrt((u + v).inplace + 1e-9).out_of_place!
          return level unless narrow
          steep = Numo::SFloat::Math.sqrt((v * (thin * thin) + u).inplace).out_of_place! / level
          (level - radius) / steep.clip(1, nil) + radius
        end
      end
    end
  end
end
