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
        # @param ground [Integer, nil] tone that shows through; nil leaves it see-through
        # @return [String] a PNG
        # @raise [Picture::Unreadable]
        def self.png(bytes, side, name: "This picture", ground: 255)
          small(bytes, side, ground:, size: :down)
        rescue Vips::Error
          raise Picture::Unreadable, "#{name} cannot be shown."
        end

        def self.small(bytes, side, ground: 255, **how)
          image = Vips::Image.thumbnail_buffer(bytes, side, height: side, **how)
          image = image.flatten(background: ground) if ground && image.has_alpha?
          image.colourspace(:srgb).pngsave_buffer(strip: true)
        end
        private_class_method :small
      end
    end
  end
end
