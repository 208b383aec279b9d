# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # From a picture to a tip: tone to cover, the paper taken off, cropped to a square.
      #
      #   made = Maker.make(File.binread("rope.png"), name: "rope.png")
      #   made.cover.solid?   # => true
      #   made.asset          # => "sha256:…"
      module Maker
        # What came of a picture: the cover as kept (8 bits), the tone taken as white, the PNG.
        Made = Struct.new(:cover, :white, :png, keyword_init: true) do
          def sha256 = Sum.of(png)

          def asset = Sum.reference(sha256)

          # @return [Hash] the figures a person or a program asks for
          def figures
            {
              width: cover.width,
              height: cover.height,
              greatest_cover: cover.greatest.round(6),
              mean_cover: cover.mean.round(6),
              solid: cover.solid?,
              sha256:
            }
          end
        end

        # @param bytes [String] a picture file
        # @param invert [Boolean] the light parts paint
        # @param crop [Boolean] crop to the mark and centre it in a square
        # @param white [Integer, nil] the white point 1–255; nil finds it from the paper
        # @param crisp [Boolean] hard pixels only
        # @return [Made]
        # @raise [Picture::Unreadable, Cover::Empty]
        def self.make(bytes, name: "The picture", invert: false, crop: true, white: nil, crisp: false)
          luma = Picture.read(bytes, name:).luma
          luma = 1 - luma if invert
          white ||= Paper.white_point(luma)
          cover = Cover.from_luma(luma, white:)
          if cover.greatest <= Cover::MARKED
            raise Cover::Empty,
              "#{name} has nothing dark enough to paint with. Nothing was kept. Choose another picture, or invert " \
                "this one if its mark is light."
          end
          cover = cover.crisp if crisp
          cover = cover.crop if crop
          png = cover.to_png
          Made.new(cover: Cover.from_file(png), white:, png:)
        end
      end
    end
  end
end
