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
            raise Invalid, "#{text.to_s[0, 40].inspect} is no colour. Write it as #rrggbb."
          new(match.captures.map(&:hex))
        end

        # @return [Array<Integer>] red, green, blue, 0–255
        attr_reader :bytes

        def initialize(bytes)
          @bytes = bytes.freeze
          freeze
        end

        # @return [Array<Float>] red, green, blue, 0–1
        def parts = bytes.map { _1 / 255.0 }

        def ==(other) = other.is_a?(Colour) && bytes == other.bytes
      end
    end
  end
end
