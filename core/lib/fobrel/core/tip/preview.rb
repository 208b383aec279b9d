# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # The square picture that stands for a brush beside its strip, where somebody has chosen one by hand: a part of
      # a picture, or a symbol of the kind of tool in any colour.
      #
      #   Preview.symbol("nib", "#0f6b6b")                          # a PNG of SIDE × SIDE
      #   Preview.cropped(bytes, box: [0.2, 0.1, 0.5])
      module Preview
        # px
        SIDE = 256
        FOLDER = File.join(DATA, "symbols")
        # Drawn for Fobrel; each stands for a kind of tool, by its name.
        SYMBOLS = {
          "round" => "Round brush",
          "flat" => "Flat brush",
          "fan" => "Fan brush",
          "nib" => "Pen",
          "pencil" => "Pencil",
          "marker" => "Marker",
          "chalk" => "Chalk",
          "spray" => "Spray",
          "sponge" => "Sponge",
          "stamp" => "Stamp",
          "eraser" => "Eraser",
          "smear" => "Smear",
          "ribbon" => "Ribbon",
          "leaf" => "Foliage",
          "texture" => "Texture",
          "light" => "Light"
        }.freeze
        # Room around a symbol, as a share of the side.
        ROOM = 0.1
        COLOUR = /\A#\h{6}\z/
        private_constant :COLOUR

        class << self
          # @param name [String] a key of SYMBOLS
          # @param colour [String] "#rrggbb"
          # @return [String] a PNG, see-through beside the symbol
          # @raise [KeyError] where there is no such symbol
          # @raise [ArgumentError] where it is no colour
          def symbol(name, colour)
            SYMBOLS.fetch(name)
            raise ArgumentError, "no colour" unless colour.match?(COLOUR)
            svg = File.read(File.join(FOLDER, "#{name}.svg")).gsub("currentColor", colour)
            inner = (SIDE * (1 - 2 * ROOM)).round
            image = Vips::Image.svgload_buffer(svg, scale: inner / 48.0)
            edge = (SIDE - inner) / 2
            image.embed(edge, edge, SIDE, SIDE).pngsave_buffer(strip: true)
          end

          # A square out of a picture from outside, in a process of its own.
          #
          # @param bytes [String] a picture of any kind that the tip maker takes
          # @param box [Array<Float>, nil] left and top as shares of width and height, side as a share of the width;
          #   nil takes the largest square in the middle
          # @return [String] a PNG
          # @raise [Picture::Unreadable]
          def cropped(bytes, box: nil, name: "The picture")
            Apart.call(self, :cropped_here, bytes, box:, name:, **Outside::LIMITS)
          rescue Apart::Ended => e
            raise Picture::Unreadable, "#{name} could not be unpacked. #{e.message} Nothing was kept. Save it smaller."
          end

          # @api private
          def cropped_here(bytes, box:, name:)
            picture = Page.pictures(bytes, name:).first
            width, height = Picture.size(picture, name:)
            side = box ? (box[2] * width) : [width, height].min
            left, top = box ? [box[0] * width, box[1] * height] : [(width - side) / 2.0, (height - side) / 2.0]
            shares = [left / width, top / height, side.to_f / width, side.to_f / height]
            of(Picture.read(picture, name:, box: shares).image)
          end

          private

          # Reduced with its colours weighed by what covers, so that no seam shows around it.
          def of(image)
            scale = SIDE.fdiv(image.width)
            small = image.premultiply(max_alpha: 1.0).resize(scale, vscale: SIDE.fdiv(image.height))
            (small.unpremultiply(max_alpha: 1.0) * 255).rint.cast(:uchar).copy(interpretation: :srgb)
              .pngsave_buffer(strip: true)
          end
        end
      end
    end
  end
end
