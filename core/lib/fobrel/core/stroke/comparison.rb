# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # How far two painted pages look apart: where, how alike in structure (SSIM; Wang, Bovik,
      # Sheikh, Simoncelli 2004) and how different in colour (CIEDE2000; Sharma, Wu, Dalal 2005).
      #
      #   Comparison.of(before, after).to_h   # => {ssim: 0.91, mean_difference: 1.2, …}
      class Comparison
        # SSIM's Gaussian window of 11 × 11 with σ 1.5, and its two constants, as published.
        WINDOW = (-5..5).map { |i| Math.exp(-i * i / (2 * 1.5**2)) }.then { |w| w.map { _1 / w.sum } }.freeze
        REACH = 5
        C1 = 0.01**2
        C2 = 0.03**2
        # Far less than a step of an 8-bit picture.
        UNSEEN = 1e-4
        # A difference of colour that can be seen side by side.
        SEEN = 1.0
        # The difference of colour that is shown at full strength.
        FULL = 20.0
        SHOWN = Colour.parse("#a3312f")

        # @param one [Page]
        # @param other [Page] of the same size
        # @param paper [Colour] lies under both
        # @return [Comparison]
        def self.of(one, other, paper: Colour.parse("#ffffff"))
          raise ArgumentError, "two pages of one size can be compared" unless [
            one.width,
            one.height
          ] == [other.width, other.height]
          new(*[one, other].map { Page.plain(_1.width, _1.height, paper).under(_1) })
        end

        # Two presets, each painted as a strip.
        #
        # @param picture [Boolean] whether the differences are wanted as a picture
        # @param way [Hash] as Strip.paint takes it
        # @return [Array(Hash, String|nil)] the figures, and a PNG
        def self.between(one, other, picture: false, **way)
          beside = [one, other].map { Strip.greatest(_1) }.max
          found = of(*[one, other].map { Strip.paint(_1, beside:, **way).page })
          [found.to_h, (found.to_png if picture)]
        end

        # SSIM of two planes, away from the edge that the window cannot fill.
        #
        # @param one [Numo::SFloat] height × width, 0–1, at least 11 a side
        # @param other [Numo::SFloat] the same shape
        # @return [Float] −1 to 1; 1 is the same
        def self.ssim(one, other)
          rows, columns = differing(one, other)
          return 1.0 if rows.nil?
          all = (one.shape[0] - 2 * REACH) * (one.shape[1] - 2 * REACH)
          part = map(one[rows, columns], other[rows, columns])
          (all - part.size + part.sum) / all
        end

        # SSIM pixel by pixel, where the window fits.
        #
        # @return [Numo::DFloat] smaller by REACH on each side
        def self.map(one, other)
          x, y = [one, other].map { image(_1) }
          mean_x, mean_y, xx, yy, xy = [x, y, x * x, y * y, x * y].map { plane(blur(_1)) }
          var_x = xx - mean_x**2
          var_y = yy - mean_y**2
          both = xy - mean_x * mean_y
          found = ((2 * mean_x * mean_y + C1) * (2 * both + C2)) / ((mean_x**2 + mean_y**2 + C1) * (var_x + var_y + C2))
          found[REACH...-REACH, REACH...-REACH]
        end

        class << self
          private

          # The rows and columns that hold all differences, with what the windows around them
          # reach; elsewhere SSIM is 1. Nil where nothing differs.
          def differing(one, other)
            apart = one.ne(other)
            return if apart.count_true.zero?
            [0, 1].map { |axis| span(apart.any?(1 - axis).where, one.shape[axis]) }
          end

          def span(hit, length)
            first = (hit.min - 2 * REACH).clamp(0, [length - 2 * REACH - 1, 0].max)
            first...[hit.max + 2 * REACH + 1, first + 2 * REACH + 1].max.clamp(0, length)
          end

          def image(plane)
            Vips::Image.new_from_memory_copy(
              Numo::DFloat.cast(plane).to_binary,
              plane.shape[1],
              plane.shape[0],
              1,
              :double
            )
          end

          def plane(image)
            Numo::DFloat.from_binary(image.cast(:double).write_to_memory).reshape(image.height, image.width)
          end

          def blur(image)
            mask = Vips::Image.new_from_array([WINDOW])
            image.convsep(mask, precision: :float)
          end
        end

        def initialize(one, other)
          @one = one
          @other = other
        end

        # @return [Float] over the luma of both pages
        def ssim = self.class.ssim(luma(@one), luma(@other))

        # @return [Numo::DFloat] height × width, CIEDE2000 of each pixel
        def differences
          @differences ||= begin
            ones, others = [@one, @other].map { _1.planes.drop(1) }
            apart = ones.zip(others).map { |a, b| (a - b).abs > UNSEEN }.inject(:|).where
            found = Numo::DFloat.zeros(@one.height, @one.width)
            unless apart.empty?
              found[apart] = ColourDifference.between(
                ones.map { _1[apart] },
                others.map {
                  _1[apart]
                }
              )
            end
            found
          end
        end

        # @return [Hash] ssim, the mean and the greatest CIEDE2000, the share of pixels where it can
        #   be seen
        def to_h
          {
            ssim: ssim.round(4),
            mean_difference: differences.mean.to_f.round(3),
            greatest_difference: differences.max.to_f.round(2),
            seen: (differences > SEEN).count_true.fdiv(differences.size).round(4)
          }
        end

        # @return [String] a PNG: both strokes faint and grey, the differences in madder red
        def to_png
          grey = 1 - (1 - (luma(@one) + luma(@other)) / 2) * 0.25
          strength = (Numo::SFloat.cast(differences) / FULL).clip(0, 1)
          strength = strength**0.5 * Numo::SFloat.cast(differences > SEEN)
          Page.new(
            [
              Numo::SFloat.ones(*grey.shape),
              *SHOWN.parts.map { |part|
                grey * (1 - strength) + strength * part
              }
            ]
          ).to_png
        end

        private

        def luma(page)
          page.planes.drop(1).zip([0.2126, 0.7152, 0.0722]).map { |plane, weight| plane * weight }.inject(:+)
        end
      end
    end
  end
end
