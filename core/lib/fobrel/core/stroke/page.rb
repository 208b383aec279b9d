# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # What lies on a page, and how a stroke is laid on it: Porter & Duff 1984 and W3C
      # Compositing and Blending Level 1, on encoded sRGB. Planes are alpha, then premultiplied
      # red, green, blue; height × width, 0–1.
      class Page
        attr_reader :planes

        # @param width [Integer] pixels
        # @param height [Integer] pixels
        def self.blank(width, height) = new(Array.new(4) { Numo::SFloat.zeros(height, width) })

        # An even ground of one colour.
        #
        # @param colour [Colour]
        # @param alpha [Float] 0–1
        def self.plain(width, height, colour, alpha: 1.0)
          new([alpha, *colour.parts.map { _1 * alpha }].map { Numo::SFloat.new(height, width).fill(_1) })
        end

        # A picture, centred on a page or cropped to it.
        #
        # @param picture [Tip::Picture]
        def self.of(picture)
          red, green, blue, alpha = picture.planes
          new([alpha, red * alpha, green * alpha, blue * alpha])
        end

        def initialize(planes)
          @planes = planes
        end

        def width = planes.first.shape[1]

        def height = planes.first.shape[0]

        # @param other [Page] of the same size
        # @param mode [String] one of Blending::MODES
        # @return [Page] other over this
        def under(other, mode: "normal")
          alpha, *colour = planes
          above, *source = other.planes
          unless mode == "normal"
            mixed = Blending.blend(mode, plain(alpha, colour), plain(above, source))
            source = source.zip(mixed).map { |own, both| own * (1 - alpha) + both * alpha * above }
          end
          Page.new([alpha, *colour].zip([above, *source]).map { |below, over| over + below * (1 - above) })
        end

        # @return [Page] this over other: destination-over, as laying paint under it
        def over(other) = other.under(self)

        # @param other [Page]
        # @return [Page] what is left where other covers: destination-out
        def without(other) = Page.new(planes.map { _1 * (1 - other.planes.first) })

        # @return [String] an RGBA PNG, or RGB where nothing shows through
        def to_png
          alpha, *colour = planes
          solid = alpha.min >= 1
          bands = solid ? colour : [*plain(alpha, colour), alpha]
          pixels = Numo::UInt8.zeros(height, width, bands.size)
          bands.each_with_index { |plane, band|
            pixels[true, true, band] = Numo::UInt8.cast((plane.clip(0, 1) * 255).round)
          }
          Page.png(pixels)
        end

        # @param pixels [Numo::UInt8] height × width × bands
        # @return [String] a PNG; the same pixels give the same bytes
        def self.png(pixels)
          height, width, bands = pixels.shape
          Vips::Image.new_from_memory_copy(pixels.to_binary, width, height, bands, :uchar)
            .copy(interpretation: :srgb).pngsave_buffer(compression: 3, filter: :none, strip: true)
        end

        private

        def plain(alpha, colour)
          divisor = alpha.clip(1e-6, nil)
          colour.map { (_1 / divisor).clip(0, 1) }
        end
      end
    end
  end
end
