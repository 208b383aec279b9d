# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # A picture that was brought to the tip maker, looked at once: how large it is, a copy at screen size, which
      # drawings lie on it, what its paper is. All that is shown while somebody tries things comes from this; the file
      # itself is read again only when a mark is saved.
      #
      #   page = Page.read(File.binread("leaves.jpg"), name: "leaves.jpg")
      #   page.marks.found.size      # => 5
      #   Page.kept(page.facts, page.screen, page.labels)   # the same again
      class Page
        # The longer side of the copy, px.
        SCREEN = 1000
        # Where the rim of a page is darker than this, its light parts are the mark.
        DARK = 0.5
        # Paper whose darkest place is so much darker than its lightest is evened out, unless it is told not to be.
        UNEVEN = 0.04
        # A block, of so many each way, is even where nine tenths of its tones lie so near each other; a page has at
        # least this share of such blocks.
        BLOCKS = 16
        EVEN = 0.09
        FEW = 0.2

        class << self
          # @param bytes [String] a picture file
          # @return [Page]
          # @raise [Picture::Unreadable]
          def read(bytes, name: "The picture")
            width, height = Picture.size(bytes, name:)
            picture = Picture.read(bytes, name:, most: Marks::PIXELS)
            luma = picture.luma
            dark = rim(luma) < DARK
            luma = 1 - luma if dark
            light = Light.of(luma)
            white = Paper.white_point(luma)
            evened = light.even(luma)
            even_white = Paper.white_point(evened)
            surface = surface?(luma)
            cover = Cover.from_luma(evened, white: even_white)
            marks = Marks.find(surface ? Cover[Numo::SFloat.zeros(*evened.shape)] : cover)
            new(
              {
                "width" => width,
                "height" => height,
                "dark" => dark,
                "surface" => surface,
                "white" => white,
                "even_white" => even_white,
                "light" => light.paper.to_a.map { |row| row.map { _1.round(4) } },
                "coloured" => picture.see_through? && picture.coloured?,
                "see_through" => picture.see_through?,
                "of" => [marks.width, marks.height],
                "parts" => marks.parts.map(&:to_a),
                "gaps" => marks.gaps.map { |one, other, far| [one, other, far.round(5)] }
              },
              screen_of(picture),
              labels_of(marks)
            )
          end

          # Each picture in a file: the layers of an OpenRaster drawing, the pages of a TIFF, the pictures of an
          # animated one, the drawing of an SVG.
          #
          # @param bytes [String]
          # @return [Array<String>] picture files
          # @raise [Picture::Unreadable]
          def pictures(bytes, name: "The picture")
            return [Vector.picture(Vector.cleaned(bytes, name:), name:)] if svg?(bytes)
            return Picture.frames(bytes, name:) unless bytes.b.start_with?("PK")
            Package::Archive.open(StringIO.new(bytes.b), name:) do |files|
              return Layers.frames(files, name:) if Layers.drawing?(files)
              raise Picture::Unreadable,
                "#{name} is a ZIP without a drawing of layers in it. Nothing was kept. Use Import for packages."
            end
          end

          # @return [Boolean] whether it is a drawing of lines
          def svg?(bytes) = bytes.byteslice(0, 4096).b.match?(/<svg[\s>]/n) && Picture.kind(bytes).nil?

          # @param facts [Hash] as #facts gave them
          # @param screen [String] PNG
          # @param labels [String] PNG
          def kept(facts, screen, labels) = new(facts, screen, labels)

          private

          # The middle tone along the rim.
          def rim(luma)
            band = [luma.shape.min / 50, 1].max
            [luma[0...band, true], luma[-band..-1, true], luma[true, 0...band], luma[true, -band..-1]]
              .flat_map { |side| side.flatten.to_a }.sort.then { |all| all[all.size / 2] }
          end

          # Whether there is no paper around a mark: hardly a block is even, neither along the rim nor inside.
          def surface?(luma)
            height, width = luma.shape
            return false if [height, width].min < BLOCKS * 4
            even = Numo::UInt8.zeros(BLOCKS, BLOCKS)
            BLOCKS.times do |row|
              BLOCKS.times do |column|
                block = luma[(row * height / BLOCKS)...((row + 1) * height / BLOCKS),
                  (column * width / BLOCKS)...((column + 1) * width / BLOCKS)].flatten
                step = [block.size / 400, 1].max
                tones = block[Numo::Int32.new(block.size / step).seq * step].sort
                even[row, column] = 1 if tones[tones.size * 9 / 10] - tones[tones.size / 10] < EVEN
              end
            end
            rim = [even[0, true], even[-1, true], even[true, 0], even[true, -1]].sum(&:sum)
            rim < BLOCKS * 4 * FEW && even.sum < BLOCKS**2 * FEW
          end

          def screen_of(picture)
            image = picture.image
            factor = SCREEN.fdiv([image.width, image.height].max)
            image = Picture.smaller(image, (image.width * factor) * (image.height * factor), 1.0) if factor < 1
            # What hides all needs no fourth band, and is read in half the time.
            image = image[0..2] unless picture.see_through?
            (image * 255).round(:rint).cast(:uchar).copy(interpretation: :srgb).pngsave_buffer(
              compression: 2,
              strip: true
            )
          end

          # Each pixel of the copy's size has the part that lies in its middle; 16 bits.
          def labels_of(marks)
            factor = [SCREEN.fdiv([marks.width, marks.height].max), 1].min
            width, height = [marks.width, marks.height].map { [(_1 * factor).round, 1].max }
            rows = Numo::Int32.cast(((Numo::DFloat.new(height).seq + 0.5) * marks.height / height).floor)
            columns = Numo::Int32.cast(((Numo::DFloat.new(width).seq + 0.5) * marks.width / width).floor)
            plane = Numo::UInt16.cast(marks.labels[rows, columns])
            Vips::Image.new_from_memory_copy(plane.to_binary, width, height, 1, :ushort)
              .copy(interpretation: :grey16).pngsave_buffer(compression: 2, strip: true)
          end
        end

        # @return [Hash] what is known of it, as JSON
        attr_reader :facts
        # @return [String] a PNG of it at screen size: red, green, blue, alpha
        attr_reader :screen
        # @return [String] a 16-bit PNG of the parts' numbers
        attr_reader :labels

        def initialize(facts, screen, labels)
          @facts = facts
          @screen = screen
          @labels = labels
        end

        def width = facts["width"]

        def height = facts["height"]

        # @return [Boolean] whether all of it is a surface, with no paper around a mark
        def surface? = !!facts["surface"]

        # @return [Boolean] whether its light parts are the mark
        def dark? = facts["dark"]

        # @return [Boolean] whether light falls off over it by more than UNEVEN
        def uneven?
          !surface? && Numo::DFloat.cast(facts["light"]).then { |paper| paper.min < paper.max * (1 - UNEVEN) }
        end

        # @return [Marks] as they were found, to be joined and told; which pixel belongs to which, only #marks knows
        def outlines
          Marks.new(nil, facts["parts"].map { Marks::Part.new(*_1) }, facts["gaps"], size: facts["of"])
        end

        # @return [Marks]
        def marks
          @marks ||= begin
            image = Vips::Image.new_from_buffer(labels, "")
            plane = Numo::UInt16.from_binary(image.write_to_memory).reshape(image.height, image.width)
            parts = facts["parts"].map { Marks::Part.new(*_1) }
            Marks.new(Numo::Int32.cast(plane), parts, facts["gaps"], size: facts["of"])
          end
        end

        # @param invert [Boolean] whether the light parts paint
        # @return [Light] of the page, seen that way
        def light(invert)
          return Light.new(Numo::DFloat.cast(facts["light"])) if invert == dark?
          @other_light ||= Light.of(seen(invert))
        end

        # @param invert [Boolean]
        # @param even [Boolean] whether its light is evened out
        # @return [Integer] the tone from which on it is paper
        def white(invert, even)
          return facts[even ? "even_white" : "white"] if invert == dark?
          Paper.white_point(even ? light(invert).even(seen(invert)) : seen(invert))
        end

        private

        def seen(invert)
          luma = Picture.read(screen).luma
          invert ? 1 - luma : luma
        end
      end
    end
  end
end
