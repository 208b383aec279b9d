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

        # How far from its centre a dab can reach, in pixels.
        def reach(dab) = dab.size / 2.0 + 1

        # Works in place throughout: new memory costs more than the sums.
        #
        # @param dab [Dabs::Dab]
        # @param dx [Numo::SFloat] 1 × width, pixel centres from the dab's centre, to the right
        # @param dy [Numo::SFloat] height × 1, the same, downwards
        # @return [Numo::SFloat] height × width, cover 0–1; the caller may write into it
        def cover(dab, dx, dy)
          radius = dab.size / 2.0
          distance = (dab.roundness < 1) ? squeezed(dab, dx, dy, radius) : Numo::SFloat::Math.sqrt((dx * dx + dy * dy).inplace)
          cover = edge(distance, radius)
          @crisp ? Numo::SFloat.cast(cover >= 0.5) : cover
        end

        private

        # 1 up to the hard core, 0 from the rim on, 1 − smoothstep between; an edge narrower
        # than a pixel is spread over one, so that it does not show steps.
        def edge(distance, radius)
          core = radius * @hardness
          width = radius - core
          t = distance.inplace
          if width < 1
            return (t * -1 + ((core + radius) / 2 + 0.5)).clip(0, 1).out_of_place!
          end
          t = ((t - core) * (1 / width)).clip(0, 1).out_of_place!
          rest = (t * -2).inplace + 3
          (t.inplace * t * rest * -1 + 1).out_of_place!
        end

        # For an ellipse: the distance along the steepest way to its rim (first order), so that
        # the edge is as wide at its ends as at its sides.
        def squeezed(dab, dx, dy, radius)
          turn = dab.angle * Math::PI / 180
          cos = Math.cos(turn)
          sin = Math.sin(turn)
          u = dx * cos - dy * sin
          v = dx * (sin / dab.roundness) + dy * (cos / dab.roundness)
          u = (u.inplace * u).out_of_place!
          v = (v.inplace * v).out_of_place!
          level = Numo::SFloat::Math.sqrt((u + v + 1e-9).inplace)
          return level unless radius * (1 - @hardness) < 1
          steep = Numo::SFloat::Math.sqrt((u + v * (1 / dab.roundness**2)).inplace) / level
          radius + (level - radius) / steep.clip(1, nil)
        end
      end
    end
  end
end
