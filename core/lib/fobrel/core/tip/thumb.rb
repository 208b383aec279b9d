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
          image = Vips::Image.thumbnail_buffer(bytes, side, height: side, crop: :centre)
          image = image.flatten(background: 255) if image.has_alpha?
          image.colourspace(:srgb).pngsave_buffer(strip: true)
        rescue Vips::Error
          raise Picture::Unreadable, "#{name} is damaged or cut off and cannot be read. Nothing was kept. Export it again."
        end

        # @param bytes [String] of a picture that was checked before it was kept, or an SVG
        # @param side [Integer] px, the longer side at the most
        # @return [String] a PNG on white
        # @raise [Picture::Unreadable]
        def self.png(bytes, side)
          image = Vips::Image.thumbnail_buffer(bytes, side, height: side, size: :down)
          image = image.flatten(background: 255) if image.has_alpha?
          image.colourspace(:srgb).pngsave_buffer(strip: true)
        rescue Vips::Error
          raise Picture::Unreadable, "This picture cannot be shown."
        end
      end
    end
  end
end
