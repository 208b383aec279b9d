# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # A piece of work as the tip maker asks for it: read, looked at and made in processes of their own (see Apart),
      # with plain values in and out. Pages are arrays of what Page.kept takes.
      #
      #   read = ApartWork.read(bytes, name: "leaves.ora")   # a Read for each layer
      #   ApartWork.look(state, pages, 0)                    # the first mark, and figures about it
      module ApartWork
        # A page of a file: the picture it is made from (nil where that is the file itself), what Page knows of it,
        # and the lines of a drawing, cleaned.
        Read = Struct.new(:picture, :facts, :screen, :labels, :lines)
        # A mark that was made: its PNG and what is told of it.
        Made = Struct.new(:png, :figures, :sentence, :box)

        # Frames in the filmstrip are shown this large, px.
        SMALL = 72
        # Frames that are shown, and that a strip is painted with.
        FEW = 48
        # Together the frames of a strip have so many pixels.
        STRIP = 2_000_000

        class << self
          # @param bytes [String, Apart::Lent] a file with pictures
          # @return [Array<Read>]
          # @raise [Picture::Unreadable]
          def read(bytes, name:)
            apart(:read_here, bytes.is_a?(String) ? bytes.b : bytes, name:, fresh: true)
          rescue Apart::Ended => e
            raise Picture::Unreadable, "#{name} could not be unpacked. #{e.message} Nothing was kept. Save it smaller."
          end

          # @param state [Hash] see Work
          # @param pages [Array<Array>] facts, screen, labels
          # @param index [Integer] of the frame that is looked at
          # @return [Hash] as openapi.yaml describes Looked, pictures as PNG
          # @raise [Problem]
          def look(state, pages, index) = apart(:look_here, state, pages, index)

          # @param how [Hash] "kind" and what else Preset::FromTip.build takes; "shape" of the strip
          # @return [String] PNG
          def strip(state, pages, **how) = apart(:strip_here, state, pages, **how)

          # @param source [String] the file of the frame's page
          # @param kind [String, nil] of brush that it is for, see Work#suited
          # @return [Made]
          def make(state, pages, index, source, kind: nil)
            apart(:make_here, state, pages, index, source, kind:, fresh: true)
          end

          # @param file [String, nil] nil: as it is shown
          # @param twin [Boolean] light and dark exchanged
          # @return [String] PNG
          def grain(state, pages, file = nil, twin: false) = apart(:grain_here, state, pages, file, twin:)

          # @param png [String] of a tip that takes the artist's colour
          # @return [String] PNG: within the mark, what painted does not, and the other way round
          def twin(png) = apart(:twin_here, png)

          # @param words [Hash] "text" for Lettering, or "figure" with shapes
          # @return [Array(String, Read)] the picture they make, and what is known of it
          def drawn(words) = apart(:drawn_here, words)

          # @api private
          def read_here(bytes, name:)
            bytes = bytes.bytes if bytes.is_a?(Apart::Lent)
            pictures = Page.pictures(bytes, name:)
            pictures.map do |picture|
              page = Page.read(picture, name:)
              lines = Vector.cleaned(bytes, name:) if Page.svg?(bytes)
              Read.new((picture unless picture == bytes), page.facts, page.screen, page.labels, lines)
            end
          end

          # @api private
          def look_here(state, pages, index)
            work = work(state, pages)
            count = work.frames.size
            made = work.make(index.clamp(0, count - 1))
            {
              tip: made.png,
              **made.figures.except(:sha256),
              black: made.black,
              white: made.white,
              before: made.before,
              tones: made.tones,
              sentence: made.sentence,
              kinds: Preset::FromTip.guess(**shape_of(made), frames: count, surface: work.pages.first.surface?),
              frames: (count > 1) ? (0...[count, FEW].min).map { |one| small(work, one) } : []
            }
          end

          # @api private
          def strip_here(state, pages, kind: nil, shape: "peek", **how)
            work = work(state, pages)
            indexes = (0...[work.frames.size, FEW].min)
            assets = {}
            references = indexes.map do |index|
              png = work.make(index, most: [Work::SHOWN, STRIP / indexes.size].min, **work.suited(kind)).png
              Sum.reference(Sum.of(png)).tap { assets[_1] = png }
            end
            preset = Preset::FromTip.build("Trial", work.tip(references), kind:, **how)
            Stroke::Strip.png(preset, assets:, shape:)
          end

          # @api private
          def make_here(state, pages, index, source, kind:)
            work = work(state, pages)
            made = work.make(index, source, **work.suited(kind))
            figures = {**made.figures.except(:sha256), black: made.black, white: made.white}
            Made.new(made.png, figures, made.sentence, shape_of(made))
          end

          # @api private
          def grain_here(state, pages, file, twin:) = Seamless.png(work(state, pages).grain(file, twin:))

          # @api private
          def twin_here(png)
            cover = Cover.from_file(png)
            # The rim fades as the mark's own does.
            fade = Shaping.feathered([Numo::SFloat.zeros(*cover.values.shape) + 1], 0.5).first
            Cover[(cover.values.max - cover.values).clip(0, 1) * fade].to_png
          end

          # @api private
          def drawn_here(words)
            picture = words["text"] ? Lettering[words["text"]].png : Figure[words.fetch("figure")].png
            page = Page.read(picture, name: words["text"] ? "This text" : "This figure")
            [picture, Read.new(picture, page.facts, page.screen, page.labels)]
          end

          private

          def apart(method, *args, **named) = Apart.call(self, method, *args, **named)

          def work(state, pages) = Work.new(state, pages.map { Page.kept(*_1) })

          # One that has nothing to paint with is white; it is told where it is looked at, and when it is to be saved.
          def small(work, index)
            Thumb.png(work.make(index, most: 20_000).png, SMALL, ground: nil)
          rescue Cover::Empty
            Cover[Numo::SFloat.zeros(SMALL, SMALL)].to_png
          end

          # The mark itself, without the square it is set in.
          def shape_of(made)
            rows, columns = made.cover.box
            values = made.cover.values[rows, columns]
            {width: columns.size, height: rows.size, even: values.mean, core: made.cover.core}
          end
        end
      end
    end
  end
end
