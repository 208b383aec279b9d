# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # How much each pixel of a mark paints: 0 nothing, 1 fully. A value; every change gives
      # a new one.
      class Cover
        # Raised when nothing of a mark is left to paint with.
        class Empty < Problem; end

        # A pixel counts as marked above this; it is what two of 255 steps leave on paper.
        MARKED = 2.0 / 255
        # A mark counts as solid from this cover on.
        SOLID = 0.98
        # A mark is solid where at least this share of it is.
        LEAST_SOLID = 0.01

        # @return [Numo::SFloat] height × width, 0–1
        attr_reader :values

        # @param values [Numo::SFloat, Array] height × width; held within 0–1
        def self.[](values) = new(Numo::SFloat.cast(values).clip(0, 1))

        # Luma to cover: black paints, white does not, linear between the two points.
        #
        # @param luma [Numo::SFloat] 0–1
        # @param white [Integer] the tone 1–255 from which on nothing paints
        # @param black [Integer] the tone 0–254 up to which all paints
        # @param gamma [Float] > 0; above 1 makes half tones lighter
        def self.from_luma(luma, white: 255, black: 0, gamma: 1.0)
          raise ArgumentError, "white must lie above black" unless white > black
          cover = ((white / 255.0 - luma) * (255.0 / (white - black))).clip(0, 1)
          self[(gamma == 1) ? cover : cover**gamma]
        end

        # A tip's file as kept: any picture, black paints.
        #
        # @param bytes [String] the picture file
        # @raise [Picture::Unreadable]
        def self.from_file(bytes, name: "The tip") = from_luma(Picture.read(bytes, name:).luma)

        def initialize(values)
          @values = values.freeze
          freeze
        end

        def width = values.shape[1]

        def height = values.shape[0]

        def ==(other) = other.is_a?(Cover) && values.shape == other.values.shape && values == other.values

        # What was white paints and what was black does not.
        def invert = Cover[1 - values]

        # Hard pixels: full from half cover on, empty below.
        def crisp = Cover[Numo::SFloat.cast(values >= 0.5)]

        # The smallest box with a mark in it, centred in a square with an even side.
        #
        # @param margin [Integer] pixels left free on each side
        # @return [Cover]
        # @raise [Empty] when no pixel is marked
        def crop(margin: 0) = Cover[values[*box].dup].square(margin:)

        # Centred in the smallest square with an even side that holds it.
        def square(margin: 0)
          side = [width, height].max + 2 * margin
          side += side % 2
          top = (side - height) / 2
          left = (side - width) / 2
          canvas = Numo::SFloat.zeros(side, side)
          canvas[top...(top + height), left...(left + width)] = values
          Cover[canvas]
        end

        # @return [Float] 0–1
        def greatest = values.max

        # @return [Float] 0–1, over all pixels
        def mean = values.mean

        # @return [Boolean] whether the mark can paint solid: in more than a few stray pixels
        def solid? = greatest >= SOLID && solid_share >= LEAST_SOLID

        # @return [Float] 0–1, what the mark's dark parts paint with: the cover that a tenth of the mark exceeds
        def core
          at = (values > MARKED).where
          at.empty? ? 0.0 : values.flatten[at].sort[((at.size - 1) * 0.9).round]
        end

        # @return [Float] 0–1, the share of the marked pixels that paint solid
        def solid_share
          marked = (values > MARKED).count_true
          marked.zero? ? 0.0 : (values >= SOLID).count_true.fdiv(marked)
        end

        # @return [String] an 8-bit greyscale PNG, 255 · (1 − cover)
        def to_png
          grey = Numo::UInt8.cast(((1 - values) * 255).round)
          Vips::Image.new_from_memory_copy(grey.to_binary, width, height, 1, :uchar)
            .copy(interpretation: :b_w).pngsave_buffer(compression: 6, strip: true)
        end

        # Scaled to another size: averaged over areas when shrinking, smooth when enlarging.
        #
        # @param width [Integer] pixels, ≥ 1
        # @param height [Integer] pixels, ≥ 1
        def scale(width, height) = Cover[Scaling.scale(values, width, height)]

        # @return [Array<Numo::SFloat>] the planes a tip is read from: here, cover alone
        def planes = [values]

        # How far the farthest mark lies from the centre of the square it is set in, as a share
        # of that square's side; at most half a diagonal.
        #
        # @return [Float]
        def span
          side = [width, height].max + [width, height].max % 2
          marked = (values > 0).where
          return 0.5 if marked.empty?
          rows = Numo::SFloat.cast(marked / width) + (0.5 - height / 2.0)
          columns = Numo::SFloat.cast(marked % width) + (0.5 - width / 2.0)
          [Math.sqrt((rows * rows + columns * columns).max) / side + 1.0 / side, Math.sqrt(0.5)].min
        end

        # @return [Array<Range>] rows and columns of the smallest box with a mark in it
        # @raise [Empty] when no pixel is marked
        def box
          marked = values > MARKED
          rows = marked.any?(1).where
          columns = marked.any?(0).where
          if rows.size.zero?
            raise Empty,
              "Nothing in this picture is dark enough to paint with. Nothing was kept. Choose another picture, or " \
                "invert this one."
          end
          [rows.min..rows.max, columns.min..columns.max]
        end
      end
    end
  end
end
