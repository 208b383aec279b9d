# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # The blend modes of W3C Compositing and Blending Level 1, on encoded sRGB. Each takes the
      # backdrop's and the source's colour, three planes each, not premultiplied, 0–1.
      module Blending
        F = Numo::SFloat

        # One formula for each channel: b the backdrop, s the source.
        SEPARABLE = {
          "normal" => ->(_b, s) { s },
          "multiply" => ->(b, s) { b * s },
          "screen" => ->(b, s) { b + s - b * s },
          "overlay" => ->(b, s) { SEPARABLE["hard-light"].call(s, b) },
          "darken" => ->(b, s) { F.minimum(b, s) },
          "lighten" => ->(b, s) { F.maximum(b, s) },
          "color-dodge" => ->(b, s) {
            pick(b <= 0, 0.0, pick(s >= 1, 1.0, F.minimum(1.0, b / (1 - s).clip(1e-9, nil))))
          },
          "color-burn" => ->(b, s) {
            pick(b >= 1, 1.0, pick(s <= 0, 0.0, 1 - F.minimum(1.0, (1 - b) / s.clip(1e-9, nil))))
          },
          "hard-light" => ->(b, s) { pick(s <= 0.5, b * s * 2, SEPARABLE["screen"].call(b, s * 2 - 1)) },
          "soft-light" => ->(b, s) { pick(s <= 0.5, b - (1 - s * 2) * b * (1 - b), b + (s * 2 - 1) * (soft(b) - b)) },
          "difference" => ->(b, s) { (b - s).abs },
          "exclusion" => ->(b, s) { b + s - b * s * 2 }
        }.freeze

        # Whole colours: hue, saturation and luminosity of one or the other.
        WHOLE = {
          "hue" => ->(b, s) { with_lum(with_sat(s, sat(b)), lum(b)) },
          "saturation" => ->(b, s) { with_lum(with_sat(b, sat(s)), lum(b)) },
          "color" => ->(b, s) { with_lum(s, lum(b)) },
          "luminosity" => ->(b, s) { with_lum(b, lum(s)) }
        }.freeze

        MODES = [*SEPARABLE.keys, *WHOLE.keys].freeze

        class << self
          # @param mode [String] one of MODES
          # @param backdrop [Array<Numo::SFloat>] red, green, blue
          # @param source [Array<Numo::SFloat>] red, green, blue
          # @return [Array<Numo::SFloat>]
          # @raise [KeyError] naming the mode that is not one
          def blend(mode, backdrop, source)
            return WHOLE[mode].call(backdrop, source) if WHOLE.key?(mode)
            formula = SEPARABLE.fetch(mode) {
              raise KeyError, "no blend mode is called #{mode.inspect}; there are #{MODES.join(", ")}"
            }
            backdrop.zip(source).map { |b, s| formula.call(b, s) }
          end

          private

          def pick(condition, yes, no)
            mask = F.cast(condition)
            mask * yes + (1 - mask) * no
          end

          def soft(b) = pick(b <= 0.25, ((b * 16 - 12) * b + 4) * b, F::Math.sqrt(b))

          def lum(colour) = colour[0] * 0.3 + colour[1] * 0.59 + colour[2] * 0.11

          def most(colour) = F.maximum(F.maximum(colour[0], colour[1]), colour[2])

          def least(colour) = F.minimum(F.minimum(colour[0], colour[1]), colour[2])

          def sat(colour) = most(colour) - least(colour)

          # The middle channel keeps its place between the least, which becomes 0, and the most.
          def with_sat(colour, wanted)
            range = sat(colour)
            scale = pick(range > 0, wanted / range.clip(1e-9, nil), 0.0)
            floor = least(colour)
            colour.map { (_1 - floor) * scale }
          end

          def with_lum(colour, wanted)
            shift = wanted - lum(colour)
            clipped(colour.map { _1 + shift })
          end

          def clipped(colour)
            light = lum(colour)
            low = least(colour)
            high = most(colour)
            down = pick(low < 0, light / (light - low).abs.clip(1e-9, nil), 1.0)
            colour = colour.map { light + (_1 - light) * down }
            up = pick(high > 1, (1 - light) / (high - light).abs.clip(1e-9, nil), 1.0)
            colour.map { light + (_1 - light) * up }
          end
        end
      end
    end
  end
end
