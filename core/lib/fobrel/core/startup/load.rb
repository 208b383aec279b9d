# frozen_string_literal: true

module Fobrel
  module Core
    module Startup
      # What a start costs: the memory that decoded tips and grains take with their half-size copies, and the time,
      # learned from a desk's own starts.
      module Load
        # A start is this long for each brush and each decoded megabyte, until a desk has shown what it needs: measured
        # with the stand-in on one core of 2 GHz (ms).
        BRUSH = 9.0
        MEGABYTE = 14.0
        # So many starts back are learned from.
        STARTS = 8
        # How strongly few starts are held to a line through nothing.
        HELD = 0.5

        class << self
          # Bytes of a picture and its copies, each half as wide and high, down to one pixel.
          #
          # @param width [Integer] px
          # @param height [Integer] px
          # @param planes [Integer] 1, or 4 where it has its own colours
          # @return [Integer]
          def memory(width, height, planes = 1)
            sum = 0
            loop do
              sum += width * height * planes
              return sum if width <= 1 && height <= 1
              width, height = [width / 2, 1].max, [height / 2, 1].max
            end
          end

          # @param brushes [Integer]
          # @param bytes [Integer] as .memory adds up
          # @return [Float] ms, before anything is known of a desk
          def usual(brushes, bytes) = (brushes * BRUSH) + (bytes / 1e6 * MEGABYTE)

          # A straight line through a desk's starts (least squares), drawn to the usual where there are few of them.
          #
          # @param brushes [Integer]
          # @param bytes [Integer]
          # @param starts [Array<Array(Float, Float)>] usual and measured ms of each, the last one last
          # @return [Float] ms
          def time(brushes, bytes, starts = [])
            usual = usual(brushes, bytes)
            known = starts.last(STARTS).select { |guess, took| guess.positive? && took.positive? }
            return usual if known.empty?
            rate = known.sum { |guess, took| guess * took } / known.sum { |guess, _| guess**2 }
            mean, middle = [0, 1].map { |at| known.sum { _1[at] } / known.size }
            spread = known.sum { |guess, _| (guess - mean)**2 }
            both = known.sum { |guess, took| (guess - mean) * (took - middle) }
            # Few starts of nearly one size say how fast a desk is, hardly what each brush costs: the line is drawn to
            # that through nothing (ridge regression).
            held = known.size * (mean**2) * HELD
            slope = (both + (held * rate)) / (spread + held)
            [middle + (slope * (usual - mean)), usual * rate * 0.25].max
          end
        end
      end
    end
  end
end
