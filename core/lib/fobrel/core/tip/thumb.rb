# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # A small picture of a tip or grain, to choose by.
      module Thumb
        # A cover: the middle of a picture, square.
        #
        # @param bytes [String] a picture from outside
        # @param side [Integer] px
        # @return [String] a PNG on white
        # @raise [Picture::Unreadable]
        def self.square(bytes, side, name: "The picture")
          Picture.check(bytes, name:)
          small(bytes, side, crop: :centre)
        rescue Vips::Error
          raise Picture::Unreadable,
            "#{name} is damaged or cut off and cannot be read. Nothing was kept. Export it again."
        end

        # @param bytes [String] of a picture that was checked before it was kept, or an SVG
        # @param side [Integer] px, the longer side at the most
        # @return [String] a PNG on white
        # @raise [Picture::Unreadable]
        def self.png(bytes, side, name: "This picture")
          small(bytes, side, size: :down)
        rescue Vips::Error
          raise Picture::Unreadable, "#{name} cannot be shown."
        end

        def self.small(bytes, side, **how)
          image = Vips::Image.thumbnail_buffer(bytes, side, height: side, **how)
          image = image.flatten(background: 255) if image.has_alpha?
          image.colourspace(:srgb).pngsave_buffer(strip: true)
        end
        private_class_method :small
      end
    end
  end
end
