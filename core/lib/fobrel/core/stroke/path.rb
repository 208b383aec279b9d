# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # The line through the samples: a centripetal Catmull–Rom spline (α = 0.5; Yuksel,
      # Schaefer, Keyser 2011), measured by arc length.
      class Path
        # The spline is followed in steps of at most a pixel, which keeps its length within
        # 0.1 px on strokes as hands draw them.
        STEP = 1.0
        MOST_STEPS = 200_000

        # @return [Float] arc length in pixels; 0 for a single point
        attr_reader :length

        # @param samples [Samples]
        # @raise [Samples::Invalid] when the stroke is too long to follow
        def self.through(samples) = new(samples.distinct.rows)

        def initialize(rows)
          @rows = rows
          (rows.size == 1) ? point : follow
          @length = @along.last
          @last = [0]
          freeze
        end

        # Where the pen is after so much of the way, and what it felt there.
        #
        # @param distance [Float] pixels along the path, 0 to length
        # @return [Array<Float>] x, y, direction (radians, counter-clockwise, 0 to the right),
        #   pressure, tiltX, tiltY, t
        def at(distance)
          step = step_at(distance)
          part = portion(@along, step, distance)
          row = @segment[step]
          [lerp(@xs, step, part), lerp(@ys, step, part), direction(step), *sensors(row, portion(@marks, row, distance))]
        end

        private

        # Most questions go along the path, so the search starts where the last one ended.
        def step_at(distance)
          step = @last[0]
          unless distance >= @along[step] && distance - @along[step] < 8
            step = (@along.bsearch_index {
              _1 > distance
            } || @along.size) - 1
          end
          step += 1 while step + 1 < @along.size && @along[step + 1] <= distance
          @last[0] = step.clamp(0, [@along.size - 2, 0].max)
        end

        def point
          @xs = [@rows[0][0]]
          @ys = [@rows[0][1]]
          @along = [0.0]
          @segment = [0]
          @marks = [0.0]
        end

        def portion(marks, index, distance)
          return 0.0 if index + 1 >= marks.size
          span = marks[index + 1] - marks[index]
          span.zero? ? 0.0 : ((distance - marks[index]) / span).clamp(0.0, 1.0)
        end

        def lerp(values, index, part)
          return values[index] if part.zero?
          values[index] + (values[index + 1] - values[index]) * part
        end

        # The page's y runs down, angles run counter-clockwise.
        def direction(step)
          return 0.0 if step + 1 >= @xs.size
          Math.atan2(@ys[step] - @ys[step + 1], @xs[step + 1] - @xs[step])
        end

        def sensors(row, part)
          from = @rows[row]
          to = @rows[row + 1] || from
          (2..5).map { |column| from[column] + (to[column] - from[column]) * part }
        end

        # Evaluates all segments at once; only the bookkeeping of which step lies where is a loop.
        def follow
          counts = @rows.each_cons(2).map { |a, b|
            (Math.hypot(b[0] - a[0], b[1] - a[1]) / STEP).ceil.clamp(8, MOST_STEPS)
          }
          if counts.sum > MOST_STEPS
            raise Samples::Invalid,
              "The stroke is longer than #{MOST_STEPS} px and cannot be followed."
          end
          segment = counts.each_with_index.flat_map { |count, index| [index] * count }
          part = Numo::DFloat.cast(counts.flat_map { |count| Array.new(count) { _1.fdiv(count) } })
          at = Numo::Int32.cast(segment)
          @xs, @ys = [0, 1].map { |axis| hermite(axis, at, part).to_a << @rows.last[axis] }
          @segment = segment << (@rows.size - 2)
          measure(counts)
        end

        def measure(counts)
          steps = (Numo::DFloat.cast(@xs).diff**2 + Numo::DFloat.cast(@ys).diff**2)**0.5
          @along = [0.0, *steps.cumsum.to_a]
          @marks = [0.0]
          counts.each_with_object([0]) { |count, done| @marks << @along[done[0] += count] }
        end

        def hermite(axis, segment, part)
          at = Numo::DFloat.cast(@rows.map { _1[axis] })
          leave, arrive = tangents(axis)
          t2 = part * part
          t3 = t2 * part
          (t3 * 2 - t2 * 3 + 1) * at[segment] + (t3 - t2 * 2 + part) * leave[segment] +
            (t2 * 3 - t3 * 2) * at[segment + 1] + (t3 - t2) * arrive[segment]
        end

        # Tangents of the non-uniform spline with knots √distance apart; beyond both ends the
        # first and last step are mirrored.
        def tangents(axis)
          points = [mirrored(0, 1), *@rows, mirrored(-1, -2)]
          knots = points.each_cons(2).map { |a, b| Math.sqrt(Math.hypot(b[0] - a[0], b[1] - a[1])) }
          slopes = points.each_cons(2).zip(knots).map { |(a, b), knot| (b[axis] - a[axis]) / knot }
          ends = (1...points.size - 1).map do |i|
            across = (points[i + 1][axis] - points[i - 1][axis]) / (knots[i - 1] + knots[i])
            slopes[i - 1] - across + slopes[i]
          end
          inner = knots[1...-1]
          [ends, ends.drop(1)].map { |beside| Numo::DFloat.cast(inner.zip(beside).map { _1 * _2 }) }
        end

        def mirrored(end_row, next_row)
          [0, 1].map { |axis| 2 * @rows[end_row][axis] - @rows[next_row][axis] }
        end
      end
    end
  end
end
