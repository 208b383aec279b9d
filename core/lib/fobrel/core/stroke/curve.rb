# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # A monotone cubic through an artist's points (PCHIP; Fritsch & Butland 1984): it never
      # rises above or falls below the points beside it.
      class Curve
        # @param points [Array<Array(Float, Float)>] x and y, 0–1, with rising x; one point is a
        #   constant
        # @return [Curve]
        def self.through(points) = new(points)

        STRAIGHT = [[0, 0], [1, 1]].freeze

        def initialize(points)
          @xs = points.map { _1[0].to_f }.freeze
          @ys = points.map { _1[1].to_f }.freeze
          raise ArgumentError, "a curve needs points with rising x" if points.empty? || @xs.each_cons(2).any? { |a, b|
            b <= a
          }
          @slopes = (points.size > 1) ? slopes.freeze : [0.0]
          @straight = points == STRAIGHT
          freeze
        end

        # @param count [Integer] at least 2
        # @return [Array<Float>] the values at evenly spaced x from 0 to 1
        def sampled(count) = Array.new(count) { |i| at(i.fdiv(count - 1)).round(4) }

        # @param x [Float] held within the first and last point
        # @return [Float]
        def at(x)
          x = x.clamp(@xs.first, @xs.last)
          return x if @straight
          return @ys.first if @xs.size == 1
          i = ((@xs.bsearch_index { _1 > x } || @xs.size) - 1).clamp(0, @xs.size - 2)
          h = @xs[i + 1] - @xs[i]
          t = (x - @xs[i]) / h
          u = 1 - t
          u * u * (1 + 2 * t) * @ys[i] + t * u * u * h * @slopes[i] +
            t * t * (3 - 2 * t) * @ys[i + 1] - t * t * u * h * @slopes[i + 1]
        end

        private

        def slopes
          h = @xs.each_cons(2).map { _2 - _1 }
          rise = @ys.each_cons(2).zip(h).map { |(a, b), width| (b - a) / width }
          return [rise[0], rise[0]] if h.size == 1
          inner = (1...h.size).map do |i|
            next 0.0 if rise[i - 1] * rise[i] <= 0
            w1 = 2 * h[i] + h[i - 1]
            w2 = h[i] + 2 * h[i - 1]
            (w1 + w2) / (w1 / rise[i - 1] + w2 / rise[i])
          end
          [outer(h[0], h[1], rise[0], rise[1]), *inner, outer(h[-1], h[-2], rise[-1], rise[-2])]
        end

        # The one-sided three-point slope, kept from changing the curve's direction.
        def outer(h0, h1, rise0, rise1)
          slope = ((2 * h0 + h1) * rise0 - h0 * rise1) / (h0 + h1)
          return 0.0 if slope * rise0 <= 0
          return 3 * rise0 if rise0 * rise1 <= 0 && slope.abs > 3 * rise0.abs
          slope
        end
      end
    end
  end
end
