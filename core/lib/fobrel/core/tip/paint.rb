# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # A mark that keeps its own colours: cover and premultiplied colour of each pixel.
      class Paint
        # @return [Array<Numo::SFloat>] cover, red, green, blue; height × width, 0–1, premultiplied
        attr_reader :planes

        # How a white ground is taken off: not at all (the picture has a see-through one), by
        # un-multiplying each pixel against white, or by flooding in from the edges.
        GROUNDS = %w[keep unmultiply flood].freeze
        # What a colour's red, green and blue give to each of them when its hue is turned: at all, by the cosine, by the
        # sine of the angle (the SVG filter feColorMatrix hueRotate, W3C Filter Effects 1, 9.6).
        HUE = [
          [[0.213, 0.787, -0.213], [0.715, -0.715, -0.715], [0.072, -0.072, 0.928]],
          [[0.213, -0.213, 0.143], [0.715, 0.285, 0.140], [0.072, -0.072, -0.283]],
          [[0.213, -0.213, -0.787], [0.715, -0.715, 0.715], [0.072, 0.928, 0.072]]
        ].freeze
        private_constant :HUE
        # What counts as white for the flood.
        NEAR_WHITE = 245

        # @param picture [Picture]
        # @param ground [String] one of GROUNDS
        # @return [Paint]
        # @raise [Cover::Empty] when nothing is left
        def self.from_picture(picture, ground: "keep", most: Picture::MOST_IN_COLOUR)
          red, green, blue, alpha = picture.planes(most:)
          colours = [red, green, blue]
          case ground
          when "unmultiply"
            # The least cover with which the colour can be told apart from white.
            flat = colours.map { _1 * alpha + (1 - alpha) }
            cover = 1 - Numo::SFloat.minimum(Numo::SFloat.minimum(flat[0], flat[1]), flat[2])
            paint = new([cover, *flat.map { (_1 - 1 + cover).clip(0, 1) }])
          when "flood"
            cover = alpha * (1 - outside(colours))
            paint = new([cover, *colours.map { _1 * cover }])
          else
            paint = new([alpha, *colours.map { _1 * alpha }])
          end
          return paint if paint.planes.first.max > Cover::MARKED
          raise Cover::Empty,
            "Nothing is left of this picture once its ground is taken off. Nothing was kept. Choose another way to " \
              "take it off."
        end

        # 1 where white reaches in from the picture's edge.
        def self.outside(colours)
          white = colours.map { _1 >= NEAR_WHITE / 255.0 }.inject(:&)
          height, width = white.shape
          image = Vips::Image.new_from_memory_copy(Numo::UInt8.cast(white).to_binary, width, height, 1, :uchar)
          regions = Numo::Int32.from_binary(image.labelregions.cast(:int).write_to_memory).reshape(height, width)
          rim = [
            regions[0, true],
            regions[-1, true],
            regions[true, 0],
            regions[true, -1]
          ].zip([white[0, true], white[-1, true], white[true, 0], white[true, -1]])
            .flat_map { |labels, light|
            labels[light.where].to_a
          }.uniq
          rim.inject(Numo::SFloat.zeros(height, width)) { |sum, label| sum + Numo::SFloat.cast(regions.eq(label)) }
        end
        private_class_method :outside

        def initialize(planes)
          @planes = planes.each(&:freeze).freeze
          freeze
        end

        def width = planes.first.shape[1]

        def height = planes.first.shape[0]

        # @return [Float] the share of its side that its farthest mark lies from its centre
        def span = Cover[planes.first].span

        # Hue turned around the axis of greys, lightness kept.
        #
        # @param degrees [Float]
        # @return [Paint]
        def hue_turned(degrees)
          cos = Math.cos(degrees * Math::PI / 180)
          sin = Math.sin(degrees * Math::PI / 180)
          cover, *colours = planes
          turned = HUE.map { |row|
            sum = row.zip(colours).map { |parts, colour|
              colour * (parts[0] + cos * parts[1] + sin * parts[2])
            }.inject(:+)
            Numo::SFloat.minimum(sum.clip(0, 1), cover)
          }
          Paint.new([cover, *turned])
        end

        # Centred in the smallest square with an even side that holds it.
        def square = Paint.new(planes.map { Cover[_1].square.values })

        # Cropped to the mark, centred in a square.
        def crop
          box = Cover[planes.first].box
          Paint.new(planes.map { _1[*box].dup }).square
        end

        # @return [String] an RGBA PNG
        def to_png
          cover = planes.first
          divisor = cover.clip(1e-6, nil)
          pixels = Numo::UInt8.zeros(height, width, 4)
          planes.drop(1).each_with_index { |plane, band|
            pixels[true, true, band] = Numo::UInt8.cast(((plane / divisor).clip(0, 1) * 255).round)
          }
          pixels[true, true, 3] = Numo::UInt8.cast((cover * 255).round)
          image = Vips::Image.new_from_memory_copy(pixels.to_binary, width, height, 4, :uchar)
          image.copy(interpretation: :srgb).pngsave_buffer(compression: 6, strip: true)
        end
      end
    end
  end
end
