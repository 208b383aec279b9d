# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # Finds the tone from which on a scanned sheet is just paper, so that no grey box stays
      # around a loosely cut mark.
      module Paper
        # Paper is looked for in the brightest sixth of the tones only.
        BRIGHTEST = 213
        # A peak is one tone (with its neighbours) that holds this share of all pixels …
        PEAK_SHARE = 0.04
        # … and stands this much above an even spread over the brightest sixth.
        PEAK_HEIGHT = 3.0
        # The white point lies this many times the paper's spread below its tone: of four
        # million pixels of even paper, about one is darker.
        SPREADS = 5
        # Paper so rough that its grain reaches further down than this is left to the artist.
        DARKEST = 170

        # @param luma [Numo::SFloat] height × width, 0–1
        # @return [Integer] the white point, 170–255; 255 when the picture shows no paper
        def self.white_point(luma)
          tones = Numo::Int32.cast((luma.flatten * 255).round)
          counts = tones.bincount(minlength: 256)
          peak = peak(counts, tones.size)
          return 255 unless peak
          [peak, grain_foot(luma)].compact.min.clamp(DARKEST, 255)
        end

        # @return [Integer, nil] the paper's tone
        def self.peak(counts, total)
          smooth = (BRIGHTEST..255).to_h { |tone| [tone, counts[[tone - 1, 0].max..[tone + 1, 255].min].sum] }
          tone, height = smooth.max_by { |at, count| [count, counts[at]] }
          even = 3.0 * counts[BRIGHTEST..255].sum / (256 - BRIGHTEST)
          return if height < PEAK_SHARE * total || height < PEAK_HEIGHT * even
          [tone - 1, tone, tone + 1].select { _1.between?(0, 255) }.max_by { counts[_1] }
        end
        private_class_method :peak

        # Where the paper's grain ends, judged along the picture's rim: a mark is seldom cut
        # through, so what lies there and is bright is paper.
        def self.grain_foot(luma)
          height, width = luma.shape
          band = [[height, width].min / 50, 1].max
          rim = [luma[0...band, true], luma[-band..-1, true], luma[true, 0...band], luma[true, -band..-1]]
            .flat_map { |side| (side.flatten * 255).round.to_a }.sort
          paper = rim.select { _1 >= DARKEST }
          return if paper.size * 2 < rim.size
          middle = paper[paper.size / 2]
          (middle - SPREADS * (middle - paper[(paper.size * 0.16).floor])).round
        end
        private_class_method :grain_foot
      end
    end
  end
end
