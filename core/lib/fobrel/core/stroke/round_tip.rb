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
          @rooms = Rooms.new
        end

        # @return [Boolean] a round tip takes the stroke's colour
        def own_colours? = false

        # How far from its centre a dab can reach, in pixels.
        def reach(dab) = dab.size / 2.0 + 1

        # @return [Boolean] whether two dabs can be computed in one batch
        def together?(one, other) = narrow?(one) == narrow?(other) && (one.roundness < 1) == (other.roundness < 1)

        # @param batch [Batch]
        # @return [Numo::SFloat] dabs × side × side, cover 0–1; the caller may write into it, and has it until the next
        #   batch is asked for
        def cover(batch)
          cover = edge(batch, -1.0, 1.0)
          @crisp ? Numo::SFloat.cast(cover >= 0.5) : cover
        end

        # @param batch [Batch]
        # @return [Numo::SFloat] dabs × side × side, what each lets through: 1 − flow · cover; as with cover
        def through(batch)
          return batch.through(cover(batch)) if @crisp
          edge(batch, batch.each_dab(&:flow), batch.each_dab { 1 - _1.flow })
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

        # 0 up to the hard core, 1 from the rim on, smoothstep between; an edge narrower than a pixel is spread over
        # one, so that it does not show steps. Of this a multiple, and something added.
        #
        # @param by [Float, Numo::SFloat]
        # @param more [Float, Numo::SFloat]
        def edge(batch, by, more)
          radius = batch.each_dab { _1.size / 2.0 }
          return (outside(batch, radius).inplace * by + more).out_of_place! if narrow?(batch.dabs.first)
          t = beyond_core(batch, radius)
          rest = @rooms.take(:rest, batch.shape)
          rest.store(t)
          ((rest.inplace * -2 + 3) * t * t * by + more).out_of_place!
        end

        def squeezed?(batch) = batch.dabs.first.roundness < 1

        # How much of each pixel lies outside of a hard edge.
        def outside(batch, radius)
          far = squeezed?(batch) ? squeezed(batch, radius, true) : apart(batch.dx, batch.dy, batch)
          (far.inplace - (radius * ((@hardness + 1) / 2) - 0.5)).clip(0, 1).out_of_place!
        end

        # How far each pixel lies on the way from the core to the rim, 0–1.
        def beyond_core(batch, radius)
          share = 1 / (radius * (1 - @hardness))
          far = if squeezed?(batch) then (squeezed(batch, radius, false).inplace * share).out_of_place!
          else apart(batch.dx * share, batch.dy * share, batch)
          end
          (far.inplace - radius * @hardness * share).clip(0, 1).out_of_place!
        end

        # The distance from each dab's centre.
        def apart(dx, dy, batch)
          Numo::SFloat::Math.sqrt(sum(:far, batch, dx * dx, dy * dy).inplace).out_of_place!
        end

        # Of a row and a column of each patch, or of patches.
        def sum(name, batch, one, other)
          all = @rooms.take(name, batch.shape)
          all.store(one)
          (all.inplace + other).out_of_place!
        end

        # For an ellipse: the distance along the steepest way to its rim (first order), so that
        # a narrow edge is as wide at its ends as at its sides.
        def squeezed(batch, radius, narrow)
          cos = batch.each_dab { Math.cos(_1.angle * Math::PI / 180) }
          sin = batch.each_dab { Math.sin(_1.angle * Math::PI / 180) }
          thin = batch.each_dab { 1 / _1.roundness }
          u = sum(:u, batch, batch.dx * cos, batch.dy * -sin)
          v = sum(:v, batch, batch.dx * (sin * thin), batch.dy * (cos * thin))
          (u.inplace * u).out_of_place!
          (v.inplace * v).out_of_place!
          level = sum(:far, batch, u, v)
          level = Numo::SFloat::Math.sqrt(level.inplace + 1e-9).out_of_place!
          return level unless narrow
          steep = Numo::SFloat::Math.sqrt((v.inplace * (thin * thin)) + u).out_of_place!
          steep = (steep.inplace / level).clip(1, nil).out_of_place!
          ((level.inplace - radius) / steep + radius).out_of_place!
        end
      end
    end
  end
end
