# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # An opaque sRGB colour.
      class Colour
        # Raised when a text is no colour.
        class Invalid < Problem; end

        # @param text [String] "#rrggbb"
        def self.parse(text)
          match = text.to_s.match(/\A#(\h{2})(\h{2})(\h{2})\z/) or
            raise Invalid, "#{text.to_s[0, 40].inspect} is not a colour. Write it as #rrggbb."
          new(match.captures.map { _1.hex / 255.0 })
        end

        # CSS Color 4, section 7.1 (HSL to sRGB).
        #
        # @param hue [Float] degrees
        # @param saturation [Float] 0–1
        # @param lightness [Float] 0–1
        def self.hsl(hue, saturation, lightness)
          amount = saturation * [lightness, 1 - lightness].min
          new(
            [0, 8, 4].map do |n|
              k = (n + hue / 30.0) % 12
              lightness - amount * [-1, [k - 3, 9 - k, 1].min].max
            end
          )
        end

        # @return [Array<Float>] red, green, blue, 0–1
        attr_reader :parts

        def initialize(parts)
          @parts = parts.map { _1.clamp(0.0, 1.0) }.freeze
          freeze
        end

        # @return [Array<Integer>] red, green, blue, 0–255
        def bytes = parts.map { (_1 * 255).round }

        # CSS Color 4, section 7.2 (sRGB to HSL).
        #
        # @return [Array<Float>] hue in degrees 0–360, saturation and lightness 0–1
        def hsl
          most = parts.max
          least = parts.min
          light = (most + least) / 2
          range = most - least
          return [0.0, 0.0, light] if range.zero?
          red, green, blue = parts
          hue = case most
          when red then (green - blue) / range + ((green < blue) ? 6 : 0)
          when green then (blue - red) / range + 2
          else (red - green) / range + 4
          end
          [hue * 60, (most - light) / [light, 1 - light].min, light]
        end

        # @param hue [Float] degrees added
        # @param saturation [Float] fraction added
        # @param lightness [Float] fraction added
        # @return [Colour]
        def shift(hue, saturation, lightness)
          return self if hue.zero? && saturation.zero? && lightness.zero?
          h, s, l = hsl
          Colour.hsl((h + hue) % 360, (s + saturation).clamp(0, 1), (l + lightness).clamp(0, 1))
        end

        # @return [Boolean] whether it would not show on white paper
        def light? = parts.zip([0.2126, 0.7152, 0.0722]).sum { _1 * _2 } > 0.8

        def ==(other) = other.is_a?(Colour) && parts == other.parts
      end
    end
  end
end
