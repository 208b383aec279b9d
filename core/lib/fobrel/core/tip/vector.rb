# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # An SVG as a tip: drawn at the size it is used at. It loads nothing from outside and runs
      # nothing: the drawing library does neither for a picture without an address, and files
      # that declare entities are refused.
      module Vector
        MAX_BYTES = 1024 * 1024
        MOST = 2400
        # A shape is drawn at sizes this factor apart, so that a slider finds the same one again.
        STEP = 1.5

        # @param size [Float] pixels
        # @return [Integer] the side it is drawn with, at least as large
        def self.side(size) = (STEP**(Math.log([size, 8].max) / Math.log(STEP)).ceil).ceil.clamp(8, MOST)

        # @param bytes [String] an SVG file
        # @param side [Integer] pixels of its longer side
        # @return [Cover] black paints
        # @raise [Picture::Unreadable]
        def self.cover(bytes, side, name: "The shape")
          raise Picture::Unreadable, "#{name} is larger than #{MAX_BYTES / 1024} KB. Nothing was kept. Simplify the drawing." if bytes.bytesize > MAX_BYTES
          text = bytes.dup.force_encoding(Encoding::UTF_8).scrub
          unless text.match?(/<svg[\s>]/) && !text.match?(/<!ENTITY|<!DOCTYPE[^>]*\[/i)
            raise Picture::Unreadable, "#{name} is not a plain SVG drawing. Nothing was kept. Save it as plain SVG."
          end
          picture(bytes, side, name)
        end

        def self.picture(bytes, side, name)
          size = Vips::Image.svgload_buffer(bytes)
          image = Vips::Image.svgload_buffer(bytes, scale: side.fdiv([size.width, size.height].max))
          image = image.flatten(background: 255).colourspace(:srgb)
          Cover.from_luma(Picture.read(image.pngsave_buffer, name:).luma)
        rescue Vips::Error
          raise Picture::Unreadable, "#{name} cannot be drawn: it is damaged. Nothing was kept. Export it again."
        end
        private_class_method :picture
      end
    end
  end
end
