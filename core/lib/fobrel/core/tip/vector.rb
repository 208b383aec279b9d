# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # An SVG as a tip: drawn at the size it is used at, in a process of its own. It loads nothing from
      # outside and runs nothing: files that declare entities are refused, what a drawing does not need
      # is taken out of a shape before it is kept (see Cleaning), and the drawing library loads nothing
      # for a picture without an address.
      module Vector
        MAX_BYTES = 1024 * 1024
        # Elements, those that are used again counted each time.
        MOST_DRAWN = 50_000
        MOST = 2400
        # As a page of the tip maker, px of its longer side.
        PICTURE = 2000
        # A shape is drawn at sizes this factor apart, so that a slider finds the same one again.
        STEP = 1.5
        # Processor time for drawing it once.
        SECONDS = 8
        # It is drawn this large to see whether it can be.
        LOOK = 64

        # @param size [Float] pixels
        # @return [Integer] the side it is drawn with, at least as large
        def self.side(size) = (STEP**(Math.log([size, 8].max) / Math.log(STEP)).ceil).ceil.clamp(8, MOST)

        # @param bytes [String] an SVG file that was checked before it was kept
        # @param side [Integer] pixels of its longer side
        # @return [Cover] black paints
        # @raise [Picture::Unreadable]
        def self.cover(bytes, side, name: "The shape")
          Apart.call(self, :drawn, bytes, side, name:, seconds: SECONDS, fresh: true)
        rescue Apart::Ended => e
          raise Picture::Unreadable, "#{name} could not be drawn. #{e.message} Simplify the drawing."
        end

        # @return [String] the file as it is kept
        # @raise [Picture::Unreadable]
        def self.cleaned(bytes, name: "The shape")
          plain(bytes, name)
          Cleaning.of(bytes).tap { drawn(_1, LOOK, name:) }
        rescue Nokogiri::XML::SyntaxError
          raise Picture::Unreadable, "#{name} cannot be drawn: it is damaged. Nothing was kept. Export it again."
        end

        # @raise [Picture::Unreadable] where it cannot be drawn, or would run or load something
        def self.check(bytes, name: "The shape")
          drawn(bytes, LOOK, name:)
          active = Cleaning.active(bytes)
          return if active.empty?
          raise Picture::Unreadable,
            "#{name} is a drawing that would run or load something (#{active.first(3).join(", ")}). It was not kept. " \
              "Bring the drawing by itself: then only the drawing is taken of it."
        rescue Nokogiri::XML::SyntaxError
          raise Picture::Unreadable, "#{name} cannot be drawn: it is damaged. Nothing was kept. Export it again."
        end

        # Its lines as a picture, for those who want to choose from it.
        #
        # @param bytes [String] as .cleaned gives it
        # @return [String] a PNG, see-through where nothing is drawn
        # @raise [Picture::Unreadable]
        def self.picture(bytes, name: "The shape")
          size = Vips::Image.svgload_buffer(bytes)
          Vips::Image.svgload_buffer(bytes, scale: PICTURE.fdiv([size.width, size.height].max)).pngsave_buffer
        rescue Vips::Error
          raise Picture::Unreadable, "#{name} cannot be drawn: it is damaged. Nothing was kept. Export it again."
        end

        # @api private
        def self.drawn(bytes, side, name: "The shape")
          plain(bytes, name)
          size = Vips::Image.svgload_buffer(bytes)
          image = Vips::Image.svgload_buffer(bytes, scale: side.fdiv([size.width, size.height].max))
          image = image.flatten(background: 255).colourspace(:srgb)
          Cover.from_luma(Picture.read(image.pngsave_buffer, name:).luma)
        rescue Vips::Error
          raise Picture::Unreadable, "#{name} cannot be drawn: it is damaged. Nothing was kept. Export it again."
        end

        def self.plain(bytes, name)
          if bytes.bytesize > MAX_BYTES
            raise Picture::Unreadable,
              "#{name} is larger than #{MAX_BYTES / 1024} KB. Nothing was kept. Simplify the drawing."
          end
          text = bytes.dup.force_encoding(Encoding::UTF_8).scrub
          unless text.match?(/<svg[\s>]/) && !text.match?(/<!ENTITY|<!DOCTYPE[^>]*\[/i)
            raise Picture::Unreadable, "#{name} is not a plain SVG drawing. Nothing was kept. Save it as plain SVG."
          end
          return if Cleaning.drawn(bytes) <= MOST_DRAWN
          raise Picture::Unreadable,
            "#{name} draws more than #{MOST_DRAWN} elements once its copies are counted. Nothing was kept. Simplify " \
              "the drawing."
        rescue Nokogiri::XML::SyntaxError
          raise Picture::Unreadable, "#{name} cannot be drawn: it is damaged. Nothing was kept. Export it again."
        end
        private_class_method :plain
      end
    end
  end
end
