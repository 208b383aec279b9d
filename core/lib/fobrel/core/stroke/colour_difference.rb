# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # How different two colours look: CIEDE2000 (Sharma, Wu, Dalal 2005). About 1 can just be
      # seen side by side. Computed for whole planes at once.
      module ColourDifference
        M = Numo::DFloat::Math
        # sRGB (IEC 61966-2-1) to CIE XYZ, and the white of D65.
        TO_XYZ = [
          [0.4124564, 0.3575761, 0.1804375],
          [0.2126729, 0.7151522, 0.0721750],
          [0.0193339, 0.1191920, 0.9503041]
        ].freeze
        WHITE = TO_XYZ.map(&:sum).freeze
        private_constant :M

        # @param one [Array<Numo::NArray>] planes of encoded red, green, blue, 0–1
        # @param other [Array<Numo::NArray>] the same shape
        # @return [Numo::DFloat]
        def self.between(one, other) = ciede2000(lab(one), lab(other))

        # @param planes [Array<Numo::NArray>] encoded red, green, blue, 0–1
        # @return [Array<Numo::DFloat>] CIELAB L, a, b under D65
        def self.lab(planes)
          linear = planes.map { |plane|
            Numo::DFloat.cast(plane).then { |v|
              choose(v <= 0.04045, v / 12.92, ((v + 0.055) / 1.055)**2.4)
            }
          }
          x, y, z = TO_XYZ.zip(WHITE).map do |row, white|
            ratio = row.zip(linear).map { |weight, plane| plane * weight }.inject(:+) / white
            choose(ratio > 216.0 / 24_389, M.cbrt(ratio), (24_389.0 / 27 * ratio + 16) / 116)
          end
          [y * 116 - 16, (x - y) * 500, (y - z) * 200]
        end

        # @param one [Array<Numo::DFloat>] CIELAB: L, a, b
        # @param other [Array<Numo::DFloat>] the same shape
        # @return [Numo::DFloat] ≥ 0
        def self.ciede2000(one, other)
          l1, a1, b1 = one
          l2, a2, b2 = other
          mean = (M.hypot(a1, b1) + M.hypot(a2, b2)) / 2
          g = (1 - M.sqrt(mean**7 / (mean**7 + 25.0**7))) * 0.5
          a1 *= g + 1
          a2 *= g + 1
          c1 = M.hypot(a1, b1)
          c2 = M.hypot(a2, b2)
          dh, hue = hues(angle(a1, b1), angle(a2, b2), c1 * c2)
          weigh(l2 - l1, c2 - c1, M.sqrt(c1 * c2) * 2 * sin(dh / 2), (l1 + l2) / 2, (c1 + c2) / 2, hue)
        end

        class << self
          private

          def choose(condition, yes, no) = Numo::DFloat.cast(condition).then { |mask| mask * yes + (1 - mask) * no }

          # In degrees, 0–360.
          def angle(a, b)
            choose(
              a.eq(0) & b.eq(0),
              0.0,
              (M.atan2(b, a) * (180 / Math::PI)).then { |turn|
                turn + Numo::DFloat.cast(turn < 0) * 360
              }
            )
          end

          # The difference of two hue angles, the short way round, and their middle.
          def hues(h1, h2, product)
            grey = product.eq(0)
            apart = h2 - h1
            far = apart.abs > 180
            difference = choose(apart > 180, apart - 360, choose(apart < -180, apart + 360, apart))
            middle = choose(far, choose((h1 + h2) < 360, (h1 + h2 + 360) / 2, (h1 + h2 - 360) / 2), (h1 + h2) / 2)
            [choose(grey, 0.0, difference), choose(grey, h1 + h2, middle)]
          end

          def weigh(dl, dc, dh, light, chroma, hue)
            t = 1 - cos(hue - 30) * 0.17 + cos(hue * 2) * 0.24 + cos(hue * 3 + 6) * 0.32 - cos(hue * 4 - 63) * 0.20
            turn = M.exp(-(((hue - 275) / 25)**2)) * 30
            rc = M.sqrt(chroma**7 / (chroma**7 + 25.0**7)) * 2
            sl = (light - 50)**2 * 0.015 / M.sqrt((light - 50)**2 + 20) + 1
            l = dl / sl
            c = dc / (chroma * 0.045 + 1)
            h = dh / (chroma * t * 0.015 + 1)
            M.sqrt((l**2 + c**2 + h**2 - sin(turn * 2) * rc * c * h).clip(0, nil))
          end

          def sin(degrees) = M.sin(degrees * (Math::PI / 180))

          def cos(degrees) = M.cos(degrees * (Math::PI / 180))
        end
      end
    end
  end
end
