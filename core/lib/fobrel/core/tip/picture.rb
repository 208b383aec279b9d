# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # A picture from outside, read with suspicion: the kind is told by its first bytes, never
      # by its name, and its size is capped before a single pixel is unpacked.
      class Picture
        # Raised with one sentence when a file cannot be used as a picture.
        class Unreadable < Problem; end

        MAX_BYTES = 64 * 1024 * 1024
        MAX_SIDE = 12_000
        MAX_PIXELS = 40_000_000
        MAX_FRAMES = 256
        # A tip or grain of more pixels is brought down to so many when it is read: no brush paints larger.
        MOST_USED = 8_000_000
        # The same for one that keeps its colours, which are four planes.
        MOST_IN_COLOUR = 4_000_000
        # Pixels of all frames of one file together.
        MAX_IN_ALL = 120_000_000
        # Whether a picture is in colour shows in this many pixels.
        GLANCE = 250_000
        private_constant :GLANCE

        KINDS = {
          "png" => ["\x89PNG\r\n\x1A\n".b, :pngload_buffer],
          "jpg" => ["\xFF\xD8\xFF".b, :jpegload_buffer],
          "gif" => ["GIF8".b, :gifload_buffer],
          "webp" => ["RIFF".b, :webpload_buffer],
          "tif" => ["II*\0".b, :tiffload_buffer],
          "tiff" => ["MM\0*".b, :tiffload_buffer]
        }.freeze

        # BT.709 weights of the encoded values.
        LUMA = [0.2126, 0.7152, 0.0722].freeze

        # Reads a picture.
        #
        # @param bytes [String] the whole file (PNG, JPEG, WebP, TIFF or GIF), at most MAX_BYTES
        # @param name [String] what to call it in a message
        # @param box [Array<Float>, nil] the part that is read: left, top, width, height as shares of the upright
        #   picture; a part keeps the pixels it has, where the whole would be brought down
        # @param most [Integer] pixels; what has more is brought down
        # @return [Picture]
        # @raise [Unreadable] in one sentence, when it is no such picture, damaged or too large
        def self.read(bytes, name: "The picture", box: nil, most: MOST_USED)
          # Line by line where it stands upright, so that a large one is never unpacked as a whole.
          upright = opened(bytes, name, access: :sequential) { in_memory(to_srgb(_1, box, most)) unless turned(_1) > 1 }
          new(upright || opened(bytes, name) { in_memory(to_srgb(_1.autorot, box, most)) })
        end

        # @return [Array<Integer>] width and height in px of the picture as it stands upright
        # @raise [Unreadable]
        def self.size(bytes, name: "The picture")
          opened(bytes, name) { |image|
            (turned(image) > 4) ? [image.height, image.width] : [image.width, image.height]
          }
        end

        # Unpacks a file to see whether it can be used as a picture.
        #
        # @return [void]
        # @raise [Unreadable]
        def self.check(bytes, name: "The picture")
          opened(bytes, name, access: :sequential) { _1.write_to_memory && nil }
        end

        # The pages of a TIFF, or the pictures of an animated GIF or WebP, as PNG each; of any other
        # file its one picture as it is.
        #
        # @return [Array<String>] at most MAX_FRAMES
        # @raise [Unreadable]
        def self.frames(bytes, name: "The picture")
          count = count(bytes, name:)
          return [bytes.b] if count < 2
          if count > MAX_FRAMES
            raise Unreadable,
              "#{name} holds #{count} pictures, more than the #{MAX_FRAMES} that a reel may have. Nothing was kept. " \
                "Split it."
          end
          all(bytes, name, count)
        end

        # Opened once where all are of one size: each opening reads the whole file.
        def self.all(bytes, name, count)
          width, height = opened(bytes, name) { [_1.width, _1.height] }
          if width * height * count > MAX_IN_ALL
            raise Unreadable,
              "#{name} holds #{count} pictures of #{width} × #{height} pixels, more than #{MAX_IN_ALL / 1_000_000} " \
                "million in all. Nothing was kept. Save it smaller, or split it."
          end
          tall = Vips::Image.public_send(KINDS.dig(kind(bytes), 1), bytes.b, fail_on: :warning, n: -1)
          unless tall.width == width && tall.height == height * count
            return Array.new(count) { |page|
              opened(bytes, name, page:) {
                _1.pngsave_buffer
              }
            }
          end
          tall = in_memory(tall)
          Array.new(count) { |page| tall.crop(0, page * height, width, height).pngsave_buffer }
        rescue Vips::Error
          # Pages of several sizes cannot be opened together.
          Array.new(count) { |page| opened(bytes, name, page:) { _1.pngsave_buffer } }
        end
        private_class_method :all

        # @return [Integer] how many pictures a file holds
        # @raise [Unreadable]
        def self.count(bytes, name: "The picture")
          opened(bytes, name) { |image| image.get_fields.include?("n-pages") ? image.get("n-pages") : 1 }
        end

        # The kind of a file by its first bytes.
        #
        # @return [String, nil] an ending such as "png", or nil when it is none we read
        def self.kind(bytes)
          KINDS.find { |_, (magic, _)| bytes.b.start_with?(magic) }&.first
        end

        # @param box [Array<Float>] left, top, width, height as shares
        # @return [Array<Integer>] the same in pixels of a picture so wide and high; at least one, and inside
        def self.pixels_of(box, width, height)
          left = (box[0] * width).round.clamp(0, width - 1)
          top = (box[1] * height).round.clamp(0, height - 1)
          [
            left,
            top,
            ((box[0] + box[2]) * width).round.clamp(left + 1, width) - left,
            ((box[1] + box[3]) * height).round.clamp(top + 1, height) - top
          ]
        end

        # @param image [Vips::Image] red, green, blue, alpha
        # @param pixels [Integer] at the most
        # @param full [Numeric] of alpha where it hides all
        def self.smaller(image, pixels, full)
          factor = Math.sqrt(pixels.fdiv(image.width * image.height))
          return image if factor >= 1
          return image.resize(factor) unless image.has_alpha?
          image.premultiply(max_alpha: full).resize(factor).unpremultiply(max_alpha: full)
        end

        # What libvips holds is not seen by Ruby's collector, which would leave several copies of a large
        # picture lying.
        #
        # @api private
        def self.pixels(image) = image.write_to_memory.tap { GC.start if _1.bytesize > LARGE }

        LARGE = 16 * 1024 * 1024
        private_constant :LARGE

        class << self
          private

          # Sizes are capped before a pixel is unpacked.
          def opened(bytes, name, access: :random, **pages)
            bytes = bytes.b
            raise Unreadable, "#{name} is empty (0 bytes). Nothing was kept. Choose another file." if bytes.empty?
            if bytes.bytesize > MAX_BYTES
              raise Unreadable,
                "#{name} is larger than #{MAX_BYTES / 1024 / 1024} MB. Nothing was kept. Save it smaller."
            end
            kind = kind(bytes) or raise Unreadable,
              "#{name} is not a PNG, JPEG, WebP, TIFF or GIF picture. Nothing was kept. Save it as PNG and try again."
            image = Vips::Image.public_send(KINDS.dig(kind, 1), bytes, fail_on: :warning, access:, **pages)
            check_size(image, name)
            yield image
          rescue Vips::Error => e
            raise Unreadable, too_many(name) if e.message.include?("number of frames")
            raise Unreadable, "#{name} is damaged or cut off and cannot be read. Nothing was kept. Export it again."
          end

          # How the camera was held (Exif 2.3, 4.6.4: 1 upright to 8).
          def turned(image) = image.get_fields.include?("orientation") ? image.get("orientation") : 1

          # More than the library opens at all, whole as they may be.
          def too_many(name)
            "#{name} holds thousands of pictures, more than the #{MAX_FRAMES} that a reel may have. Nothing was " \
              "kept. Split it."
          end

          def check_size(image, name)
            return if image.width <= MAX_SIDE && image.height <= MAX_SIDE && image.width * image.height <= MAX_PIXELS
            raise Unreadable,
              "#{name} is #{image.width} × #{image.height} pixels, more than a tip needs (#{MAX_SIDE} a side, " \
                "#{MAX_PIXELS / 1_000_000} million in all). Nothing was kept. Save it smaller."
          end

          # Decodes now, once, and raises where the data is damaged (the library's own copy_memory would hand back an
          # image without pixels). Copied, for a text that is lent to the library is taken for another one of the same
          # content, and freed under it.
          def in_memory(image)
            Vips::Image.new_from_memory_copy(
              Picture.pixels(image), image.width, image.height, image.bands, image.format
            )
          end

          # Four inks: the three colours by their profile, darkened by as much black as there is. A profile would have
          # black ink alone paint at 86 %, for paper is darker under all four.
          def of_inks(image)
            most = (image.format == :ushort) ? 65_535 : 255
            colours = image[0..2].bandjoin(0).copy(interpretation: :cmyk)
            colours = colours.icc_transform("srgb", embedded: true) if image.get_fields.include?("icc-profile-data")
            paper = colours.colourspace(:srgb)[0..2]
            shade = image[3].linear(-1.0 / most, 1)
            inked = (paper * shade).cast(:uchar).copy(interpretation: :srgb)
            inked.mutate { |one| one.remove!("icc-profile-data") if image.get_fields.include?("icc-profile-data") }
          end

          # Three colour bands and an alpha band, of 8 or 16 bits.
          def to_srgb(image, box, most)
            image = image.crop(*pixels_of(box, image.width, image.height)) if box
            image = of_inks(image) if image.interpretation == :cmyk
            if image.get_fields.include?("icc-profile-data") && image.bands >= 3
              image = image.icc_transform("srgb", embedded: true)
            end
            deep = image.format == :ushort
            space = deep ? :rgb16 : :srgb
            image = image.colourspace(space) unless image.interpretation == space
            image = smaller(image, most, deep ? 65_535 : 255)
            image = image.bandjoin(deep ? 65_535 : 255) unless image.has_alpha?
            kind = deep ? :ushort : :uchar
            (image.format == kind) ? image : image.cast(kind)
          end
        end

        # @param pixels [Vips::Image] four bands of 8 or 16 bits: red, green, blue, alpha (not premultiplied)
        def initialize(pixels)
          @pixels = pixels
          @share = 1.0 / ((pixels.format == :ushort) ? 65_535 : 255)
          freeze
        end

        # @return [Vips::Image] red, green, blue, alpha; floats from 0 to 1, not premultiplied
        def image = @pixels.cast(:float) * @share

        def width = @pixels.width

        def height = @pixels.height

        # @param most [Integer] pixels; a larger picture is brought down
        # @return [Array<Numo::SFloat>] red, green, blue, alpha; height × width, 0–1
        def planes(most: MOST_IN_COLOUR)
          image = self.class.smaller(self.image, most, 1.0)
          (0..3).map { |band|
            Numo::SFloat.from_binary(self.class.pixels(image[band].cast(:float))).reshape(image.height, image.width)
          }
        end

        # What counts as colour: this far between a pixel's strongest and weakest part, in this share
        # of what is not see-through.
        COLOUR = 0.15
        COLOURED = 0.05
        private_constant :COLOUR, :COLOURED

        # @return [Boolean] whether some of it is in colour
        def coloured?
          red, green, blue, alpha = planes(most: GLANCE)
          marked = alpha > Cover::MARKED
          strong = Numo::SFloat.maximum(
            Numo::SFloat.maximum(red, green),
            blue
          ) - Numo::SFloat.minimum(Numo::SFloat.minimum(red, green), blue)
          (marked & (strong > COLOUR)).count_true > COLOURED * [marked.count_true, 1].max
        end

        # @return [Boolean] whether it lies on nothing, so that its colours can be told from its ground
        def see_through? = image[3].min < 0.5

        # The picture laid over white, as encoded luma (ITU-R BT.709 weights). Some rows at a time, for sums are done
        # in double precision; libvips would do the same, but takes longer to be told than to do it.
        #
        # @return [Numo::SFloat] height × width, 0 black to 1 white
        def luma
          kind = (@pixels.format == :ushort) ? Numo::UInt16 : Numo::UInt8
          parts = kind.from_binary(self.class.pixels(@pixels)).reshape(height, width, 4)
          found = Numo::SFloat.zeros(height, width)
          (0...height).step([ROWS_OF / width, 1].max) do |top|
            rows = top...[top + [ROWS_OF / width, 1].max, height].min
            *colours, alpha = (0..3).map { shares(parts[rows, true, _1]) }
            grey = colours.zip(LUMA).map { |part, weight| Numo::DFloat.cast(part) * weight }.inject(:+)
            found[rows, true] = (Numo::SFloat.cast(grey) * alpha).inplace - alpha + 1
          end
          found
        end

        # Pixels that are added up at once.
        ROWS_OF = 65_536
        private_constant :ROWS_OF

        private

        def shares(part) = (Numo::SFloat.cast(part).inplace * @share).out_of_place!
      end
    end
  end
end
