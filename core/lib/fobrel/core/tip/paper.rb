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
        # The share of the paper's darker grain that may stay above the white point.
        GRAIN_LEFT = 0.002
        # Paper whose rim shows one tone in this share is drawn, not scanned: it has no grain.
        CLEAN = 0.9

        # @param luma [Numo::SFloat] height × width, 0–1
        # @return [Integer] the white point, 213–255; 255 when the picture shows no paper
        def self.white_point(luma)
          tones = Numo::Int32.cast((luma.flatten * 255).round)
          counts = tones.bincount(minlength: 256)
          peak = peak(counts, tones.size)
          return 255 unless peak
          [peak, grain_foot(luma, peak)].compact.min
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

        # The darkest tone of the paper along the picture's rim: a mark is seldom cut through,
        # so what lies there and is bright is paper with its grain.
        def self.grain_foot(luma, peak)
          height, width = luma.shape
          band = [[height, width].min / 50, 1].max
          rim = [luma[0...band, true], luma[-band..-1, true], luma[true, 0...band], luma[true, -band..-1]]
            .flat_map { |side| (side.flatten * 255).round.to_a }
          paper = rim.select { _1 >= BRIGHTEST }
          return if paper.size * 2 < rim.size || paper.count { (_1 - peak).abs <= 1 } >= CLEAN * paper.size
          paper.sort[(paper.size * GRAIN_LEFT).floor].to_i
        end
        private_class_method :grain_foot
      end
    end
  end
end
