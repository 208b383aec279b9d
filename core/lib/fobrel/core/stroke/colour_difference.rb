# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # How different two colours look: CIEDE2000 (Sharma, Wu, Dalal 2005). About 1 can just be
      # seen side by side.
      module ColourDifference
        # @param one [Array<Float>] CIELAB: L, a, b
        # @param other [Array<Float>] the same
        # @return [Float] ≥ 0
        def self.ciede2000(one, other)
          l1, a1, b1 = one
          l2, a2, b2 = other
          mean = (Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2
          g = 0.5 * (1 - Math.sqrt(mean**7 / (mean**7 + 25.0**7)))
          a1 *= 1 + g
          a2 *= 1 + g
          c1 = Math.hypot(a1, b1)
          c2 = Math.hypot(a2, b2)
          h1 = angle(a1, b1)
          h2 = angle(a2, b2)
          dh, hue = hues(h1, h2, c1 * c2)
          weigh(l2 - l1, c2 - c1, 2 * Math.sqrt(c1 * c2) * sin(dh / 2), (l1 + l2) / 2, (c1 + c2) / 2, hue)
        end

        class << self
          private

          def angle(a, b) = (a.zero? && b.zero?) ? 0.0 : (Math.atan2(b, a) * 180 / Math::PI) % 360

          def hues(h1, h2, product)
            return [0.0, h1 + h2] if product.zero?
            difference = h2 - h1
            difference -= 360 if difference > 180
            difference += 360 if difference < -180
            return [difference, (h1 + h2) / 2] if (h1 - h2).abs <= 180
            [difference, (h1 + h2 < 360) ? (h1 + h2 + 360) / 2 : (h1 + h2 - 360) / 2]
          end

          def weigh(dl, dc, dh, light, chroma, hue)
            t = 1 - 0.17 * cos(hue - 30) + 0.24 * cos(2 * hue) + 0.32 * cos(3 * hue + 6) - 0.20 * cos(4 * hue - 63)
            turn = 30 * Math.exp(-((hue - 275) / 25)**2)
            rc = 2 * Math.sqrt(chroma**7 / (chroma**7 + 25.0**7))
            sl = 1 + 0.015 * (light - 50)**2 / Math.sqrt(20 + (light - 50)**2)
            l = dl / sl
            c = dc / (1 + 0.045 * chroma)
            h = dh / (1 + 0.015 * chroma * t)
            Math.sqrt(l**2 + c**2 + h**2 - sin(2 * turn) * rc * c * h)
          end

          def sin(degrees) = Math.sin(degrees * Math::PI / 180)

          def cos(degrees) = Math.cos(degrees * Math::PI / 180)
        end
      end
    end
  end
end
