# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # From a picture to a tip: tone to cover, the paper taken off, one mark of the page chosen, faded, turned, cropped
      # to a square.
      #
      #   made = Maker.make(File.binread("rope.png"), name: "rope.png")
      #   made.cover.solid?   # => true
      #   made.asset          # => "sha256:…"
      #
      #   page = Page.read(bytes)
      #   Maker.make(bytes, page:, area: Area.of(page.marks.found[2]), solid: true, feather: 0.2)
      module Maker
        # A mark is read with so many pixels at the most: no brush paints it larger.
        MOST = 4_200_000
        # Nor with a longer side than this, px, where it is set in a square.
        SIDE = Stroke::PictureTip::LARGEST
        # With `solid`, so much of the mark is to paint fully.
        SOLID_SHARE = 0.25

        # What came of a picture: the mark as kept (8 bits), the tones taken as black and white, the PNG; before it was
        # made solid, its greatest cover and the share of it that was solid; counts of tones 0–255 in it.
        Made = Struct.new(:mark, :black, :white, :png, :before, :tones, keyword_init: true) do
          # @return [Cover] how much it paints
          def cover = @cover ||= mark.is_a?(Cover) ? mark : Cover[mark.planes.first]

          def sha256 = Sum.of(png)

          def asset = Sum.reference(sha256)

          # @return [Boolean] whether it keeps its own colours
          def own? = mark.is_a?(Paint)

          # @return [Hash] the figures a person or a program asks for
          def figures
            {
              width: mark.width,
              height: mark.height,
              greatest_cover: cover.greatest.round(6),
              mean_cover: cover.mean.round(6),
              solid: cover.solid?,
              solid_share: cover.solid_share.round(4),
              sha256:
            }
          end

          # @return [String] in an artist's words
          def sentence
            dark = (cover.core * 100).round
            share = (cover.solid_share * 100).round
            return "Paints solid: #{share} % of the mark covers fully with one dab." if cover.solid? && share >= 50
            return "Paints solid in places: #{share} % of the mark covers fully with one dab." if cover.solid?
            "Black parts paint at #{dark} %: several dabs are needed to cover."
          end
        end

        class << self
          # @param bytes [String] a picture file
          # @param area [Area] what of it is the mark
          # @param page [Page, nil] what is known of the whole picture; needed for marks that were found
          # @param invert [Boolean] the light parts paint
          # @param even [Boolean] light that falls off over the paper is taken out
          # @param black [Integer, nil] the tone 0–254 up to which all paints; nil takes 0
          # @param white [Integer, nil] the tone 1–255 from which on nothing does; nil finds it from the paper
          # @param gamma [Float] > 0; above 1 makes half tones lighter
          # @param solid [Boolean] the black point is set so that a good part of the mark paints fully
          # @param threshold [Float, nil] hard pixels only: full from this cover on
          # @param crisp [Boolean] a threshold of 0.5
          # @param own [String, nil] in its own colours: how a white ground is taken off (Paint::GROUNDS)
          # @param most [Integer] pixels it is read with; what is only shown needs fewer
          # @param options [Hash] the tone, as above, and what .shaped takes
          # @return [Made]
          # @raise [Picture::Unreadable, Cover::Empty]
          def make(bytes, name: "The picture", area: Area[{}], page: nil, own: nil, most: MOST, **options)
            most = [most, within_square(bytes, area, name)].min unless options[:square] == false
            picture = Picture.read(bytes, name:, box: (area.box unless area.words.empty?), most:)
            # Pixels of the page in one that was read.
            pixels = page ? page.width * page.height * area.box[2] * area.box[3] : picture.width * picture.height
            scale = pixels.fdiv(picture.width * picture.height)
            mask = area.mask(picture.width, picture.height, page)
            made = own ? in_colours(
              picture,
              mask,
              own
            ) : in_tone(picture, mask, area, page, name:, **options.slice(*TONE))
            mark = shaped(made.mark, name:, scale:, **options.except(*TONE))
            png = mark.to_png
            # As it is kept: in 8 bits.
            made.mark = mark.is_a?(Cover) ? Cover[(mark.values * 255).round / 255] : mark
            made.png = png
            made
          end

          # @param mark [Cover, Paint]
          # @param crop [Boolean] crop to the mark and set it in a square
          # @param square [Boolean] false keeps the drawing's own proportions
          # @param specks [Numeric] what hangs together and is smaller goes; pixels of the page
          # @param feather [Float] 0–1, see Shaping.feathered
          # @param turn [Float] degrees counter-clockwise
          # @param mirror [String, nil] see Shaping.mirrored
          # @param padding [Float] free on each side, share of the longer side
          # @param centre [String] "middle" or "weight"
          # @param enters [Float] where the line comes in at the left end, 0–1 from the top
          # @param leaves [Float] where it goes out at the right end
          # @param size [Float] 0–1, within its square
          # @param lighter [Float] 0–1, so much less it paints
          # @param hue [Float] degrees its own colours are turned by
          # @return [Cover, Paint]
          # @raise [Cover::Empty]
          def shaped(
            mark, name: "The picture", scale: 1.0, crop: true, square: true, specks: 0, feather: 0, turn: 0,
            mirror: nil, padding: 0, centre: "middle", enters: 0.5, leaves: 0.5, size: 1.0, lighter: 0, hue: 0
          )
            planes = mark.planes
            planes = dusted(planes, specks / scale) if specks > 0
            refuse_empty(planes.first, name)
            if crop
              box = Cover[planes.first].box
              planes = Shaping.feathered(planes.map { _1[*box].dup }, feather)
              planes = Shaping.mirrored(Shaping.turned(planes, turn), mirror)
              planes = Shaping.lined_up(planes, enters, leaves)
              padding += (1 / size - 1) / 2 if size < 1
              planes = Shaping.framed(planes, by: centre, square:, padding:)
            end
            planes = planes.map { _1 * (1 - lighter) } if lighter > 0
            return Cover[planes.first] if mark.is_a?(Cover)
            paint = Paint.new(planes.map { _1.clip(0, 1) })
            hue.zero? ? paint : paint.hue_turned(hue)
          end

          private

          TONE = %i[invert even black white gamma solid threshold crisp].freeze
          private_constant :TONE

          # Pixels that a part of a picture has when its longer side is no longer than SIDE.
          def within_square(bytes, area, name)
            sides = Picture.size(bytes, name:).zip(area.box.last(2)).map { |pixels, share| [pixels * share, 1].max }
            return MOST if sides.max <= SIDE
            factor = SIDE / sides.max
            [(sides[0] * factor * sides[1] * factor).ceil, 1].max
          end

          def in_tone(
            picture, mask, area, page, name:, invert: false, even: false, black: nil, white: nil, gamma: 1.0,
            solid: false, threshold: nil, crisp: false
          )
            luma = picture.luma
            luma = 1 - luma if invert
            luma = (page ? page.light(invert) : Light.of(luma)).even(luma, page ? area.box : [0, 0, 1, 1]) if even
            white ||= page ? page.white(invert, even) : Paper.white_point(luma)
            black = (black || 0).clamp(0, white - 1)
            cover = masked(Cover.from_luma(luma, white:, black:, gamma:), mask)
            refuse_empty(cover.values, name)
            before = {greatest_cover: cover.greatest.round(4), solid_share: cover.solid_share.round(4)}
            if solid
              black = [black, solid_black(luma, cover, white)].max
              cover = masked(Cover.from_luma(luma, white:, black:, gamma:), mask)
            end
            threshold ||= 0.5 if crisp
            cover = Cover[Numo::SFloat.cast(cover.values >= threshold)] if threshold
            Made.new(mark: cover, black:, white:, before:, tones: tones(luma, mask))
          end

          def in_colours(picture, mask, ground)
            paint = Paint.from_picture(picture, ground:, most: MOST)
            paint = Paint.new(paint.planes.map { _1 * scaled(mask, _1) }) if mask
            Made.new(mark: paint, tones: tones(picture.luma, mask))
          end

          # Tones up to that of its darkest quarter are black.
          def solid_black(luma, cover, white)
            at = (cover.values > Marks::MARKED).where
            return 0 if at.empty?
            tones = luma.flatten[at].sort
            (tones[((tones.size - 1) * SOLID_SHARE).round] * 255).ceil.clamp(0, white - 1)
          end

          def masked(cover, mask) = mask ? Cover[cover.values * mask] : cover

          # In colour a picture may have been read smaller.
          def scaled(mask, plane)
            (mask.shape == plane.shape) ? mask : Scaling.scale(mask, plane.shape[1], plane.shape[0])
          end

          def tones(luma, mask)
            all = Numo::Int32.cast((luma * 255).round.clip(0, 255)).flatten
            all = all[(mask > 0.5).where] if mask
            all.empty? ? Array.new(256, 0) : all.bincount(minlength: 256).to_a
          end

          def dusted(planes, least)
            cover = Shaping.specks(planes.first, least)
            kept = Numo::SFloat.cast(cover > 0)
            [cover, *planes.drop(1).map { _1 * kept }]
          end

          def refuse_empty(cover, name)
            return if cover.max > Cover::MARKED
            raise Cover::Empty,
              "#{name} has nothing dark enough to paint with. Nothing was kept. Choose another picture, or invert " \
                "this one if its mark is light."
          end
        end
      end
    end
  end
end
