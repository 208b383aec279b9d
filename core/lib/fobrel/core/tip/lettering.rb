# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # Words as a mark: a signature in one go, in fonts that ship with Fobrel (SIL Open Font License 1.1).
      #
      #   Lettering["text" => "© Skerrow", "font" => "Caveat"].png
      class Lettering
        # Raised in one sentence where nothing can be drawn.
        class Unwritable < Problem; end

        # Each font's file, what it is called inside, its weights and what it is good for.
        Font = Struct.new(:name, :file, :family, :weights, :for)
        FONTS = [
          Font.new("Caveat", "Caveat", "Caveat", [400, 700], "by hand"),
          Font.new("EB Garamond", "EBGaramond", "EB Garamond", [400, 700], "a book"),
          Font.new("Oswald", "Oswald", "Oswald", [400, 700], "a poster")
        ].freeze
        FOLDER = File.join(DATA, "fonts")
        # Letters are drawn this high, px.
        SIZE = 240
        LONGEST = 120
        # A drawing is brought down to this longer side.
        SIDE = 2400

        FIELDS = {"text" => "", "font" => "Caveat", "weight" => 400, "spacing" => 0.0, "curve" => 0.0}.freeze

        def self.[](words) = new(words)

        # @return [Hash] all FIELDS
        attr_reader :words

        # @param words [Hash] "text"; "font", a name of FONTS; "weight" 100–900, the nearest there is; "spacing" more or
        #   less between letters, share of their size, -0.1–1; "curve" -1–1: bent upwards or downwards, the whole text
        #   over half a circle at 1
        # @raise [Unwritable]
        def initialize(words)
          @words = FIELDS.merge(words.slice(*FIELDS.keys)).freeze
          unless font
            raise Unwritable, "There is no font “#{@words["font"]}” here. Take one of #{FONTS.map(&:name).join(", ")}."
          end
          text = Names.clean(@words["text"].to_s)
          raise Unwritable, "There is nothing to write. Type a word." if text.empty?
          raise Unwritable, "The text is longer than #{LONGEST} characters. Shorten it." if text.size > LONGEST
          @text = text
          freeze
        end

        # @return [Font, nil]
        def font = FONTS.find { _1.name.casecmp?(words["font"].to_s) }

        # @return [Integer] the nearest weight that ships
        def weight = font.weights.min_by { (_1 - words["weight"]).abs }

        # @return [Numo::SFloat] height × width, cover 0–1
        def cover
          image = bent(drawn)
          factor = SIDE.fdiv([image.width, image.height].max)
          image = image.resize(factor) if factor < 1
          plane = Numo::UInt8.from_binary(image.cast(:uchar).write_to_memory).reshape(image.height, image.width)
          Numo::SFloat.cast(plane) / 255
        end

        # @return [String] a PNG, black on white
        # @raise [Unwritable] where the font has none of its signs
        def png
          Cover[cover].to_png
        rescue Vips::Error
          raise Unwritable, "“#{@text[0, 40]}” cannot be written. Nothing was kept. Try another text."
        end

        private

        def drawn
          spacing = (words["spacing"] * SIZE * 1024).round
          text = %(<span letter_spacing="#{spacing}">#{CGI.escapeHTML(@text)}</span>)
          Vips::Image.text(
            text,
            font: "#{font.family} #{"bold " if weight > 550}#{SIZE}",
            fontfile: File.join(FOLDER, "#{font.file}-#{weight}.ttf"),
            dpi: 72
          )
        end

        # Along an arc: the text's middle line keeps its length.
        def bent(image)
          curve = words["curve"].clamp(-1.0, 1.0)
          return image if curve.abs < 0.01
          image = image.rot180 if curve.negative?
          bent = along_arc(image, curve.abs * Math::PI)
          curve.negative? ? bent.rot180 : bent
        end

        # @param angle [Float] that the text takes of a circle, radians
        def along_arc(image, angle)
          radius = image.width / angle
          inner, outer = [-0.5, 0.5].map { radius + _1 * image.height }
          half = outer * Math.sin([angle / 2, Math::PI / 2].min)
          sides = [half * 2, outer - inner * Math.cos(angle / 2)].map { _1.ceil + 4 }
          place = Vips::Image.xyz(*sides) - [half + 2, outer + 2]
          # How far from the circle's middle each pixel lies, and how far round from its top.
          polar = (place[1] * -1).complexform(place[0]).polar
          along = degrees(polar.imag) * (radius * Math::PI / 180) + image.width / 2.0
          rimmed(image).mapim((along + 1).bandjoin(polar.real * -1 + outer + 1))
        end

        def rimmed(image) = image.embed(1, 1, image.width + 2, image.height + 2)

        # From -180 to 180.
        def degrees(angle) = (angle > 180).ifthenelse(angle - 360, angle)
      end
    end
  end
end
