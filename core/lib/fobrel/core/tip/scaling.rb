# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # Changes the size of one plane of pixels.
      module Scaling
        # Down by exact averaging over the area each new pixel covers, up smoothly.
        #
        # @param plane [Numo::SFloat] height × width
        # @return [Numo::SFloat] `height` × `width`
        def self.scale(plane, width, height)
          plane = grow(plane, [width, plane.shape[1]].max, [height, plane.shape[0]].max)
          plane = average(plane, width) if width < plane.shape[1]
          plane = average(plane.transpose, height).transpose.dup if height < plane.shape[0]
          plane
        end

        # Up by a whole number, blended between the pixels' centres.
        #
        # @param factor [Integer] ≥ 1
        # @return [Numo::SFloat]
        def self.enlarge(plane, factor)
          (factor == 1) ? plane : grow(plane, plane.shape[1] * factor, plane.shape[0] * factor)
        end

        def self.grow(plane, width, height)
          plane = stretch(plane, width) if width > plane.shape[1]
          plane = stretch(plane.transpose, height).transpose.dup if height > plane.shape[0]
          plane
        end
        private_class_method :grow

        def self.stretch(plane, count)
          size = plane.shape[1]
          at = ((Numo::SFloat.new(count).seq + 0.5) * size.fdiv(count) - 0.5).clip(0, size - 1)
          whole = Numo::Int32.cast(at.floor)
          near = plane[true, whole]
          near + (plane[true, (whole + 1).clip(0, size - 1)] - near) * (at - whole)
        end
        private_class_method :stretch

        # Columns averaged to `count`, by differences of the running sum at fractional borders.
        def self.average(plane, count)
          rows, columns = plane.shape
          sums = Numo::DFloat.zeros(rows, columns + 1)
          sums[true, 1..] = Numo::DFloat.cast(plane).cumsum(1)
          borders = Numo::DFloat.new(count + 1).seq * columns.fdiv(count)
          whole = Numo::Int32.cast(borders.floor.clip(0, columns - 1))
          part = borders - whole
          at = sums[true, whole] * (1 - part) + sums[true, whole + 1] * part
          Numo::SFloat.cast((at[true, 1..] - at[true, 0...-1]) * count.fdiv(columns))
        end
        private_class_method :average
      end
    end
  end
end
