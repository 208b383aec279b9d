# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # The line through the samples: a centripetal Catmull–Rom spline (α = 0.5; Yuksel,
      # Schaefer, Keyser 2011), measured by arc length.
      #
      #   path = Path.through(samples)
      #   path.at(path.length / 2).pressure   # half way
      class Path
        # The spline is followed in steps of at most a pixel, which keeps its length within
        # 0.1 px on strokes as hands draw them.
        STEP = 1.0
        MOST_STEPS = 200_000
        # Steps between two samples, at the least.
        LEAST = 8

        # @return [Float] arc length in pixels; 0 for a single point
        attr_reader :length

        # @param samples [Samples]
        # @raise [Samples::Invalid] when the stroke is too long to follow
        def self.through(samples) = new(samples.distinct)

        # @param samples [Samples] no two after each other in one place
        def initialize(samples)
          @samples = samples
          (samples.size == 1) ? point : follow
          @length = @along.last
          @last = [0]
          freeze
        end

        # Where the pen is after so much of the way, and what it felt there.
        #
        # @param distance [Float] pixels along the path, 0 to length
        # @return [Place]
        def at(distance)
          step = step_at(distance)
          part = part_of(step, distance)
          Place.new(
            distance,
            between(@x, step, part),
            between(@y, step, part),
            direction(step),
            between(@pressure, step, part),
            between(@tilt_x, step, part),
            between(@tilt_y, step, part),
            between(@t, step, part)
          )
        end

        # @param distance [Float] pixels along the path, held within it
        # @return [Float] ms
        def time_at(distance)
          step = step_at(distance)
          between(@t, step, part_of(step, distance))
        end

        def inspect = "#<#{self.class.name} #{length.round} px>"

        private

        # Most questions go along the path, so the search starts where the last one ended.
        def step_at(distance)
          step = @last[0]
          unless distance >= @along[step] && distance - @along[step] < LEAST
            step = (@along.bsearch_index { |along| along > distance } || @along.size) - 1
          end
          step += 1 while step + 1 < @along.size && @along[step + 1] <= distance
          @last[0] = step.clamp(0, [@along.size - 2, 0].max)
        end

        def part_of(step, distance)
          return 0.0 if step + 1 >= @along.size
          span = @along[step + 1] - @along[step]
          span.zero? ? 0.0 : ((distance - @along[step]) / span).clamp(0.0, 1.0)
        end

        def between(column, step, part)
          return column[step] if part.zero?
          column[step] + (column[step + 1] - column[step]) * part
        end

        # The page's y runs down, angles run counter-clockwise.
        def direction(step)
          return 0.0 if step + 1 >= @x.size
          Math.atan2(@y[step] - @y[step + 1], @x[step + 1] - @x[step])
        end

        def point
          @along = [0.0]
          Samples::COLUMNS.each_value { |name| instance_variable_set(:"@#{name}", @samples.public_send(name)) }
        end

        # Evaluates all segments at once; only the bookkeeping of which step lies where is a loop.
        def follow
          counts = steps_of_segments
          segment = Numo::Int32.cast(counts.each_with_index.flat_map { |count, index| [index] * count })
          part = Numo::DFloat.cast(counts.flat_map { |count| Array.new(count) { |step| step.fdiv(count) } })
          @x, @y = [@samples.x, @samples.y].map { |axis| hermite(axis, segment, part).to_a << axis.last }
          measure
          felt(counts, segment)
        end

        def steps_of_segments
          counts = chords.map { |chord| (chord / STEP).ceil.clamp(LEAST, MOST_STEPS) }
          return counts if counts.sum <= MOST_STEPS
          raise Samples::Invalid, "The stroke is longer than #{MOST_STEPS} px and cannot be followed."
        end

        def chords
          [@samples.x, @samples.y].map { |axis| axis.each_cons(2).map { |a, b| b - a } }
            .transpose.map { |across, down| Math.hypot(across, down) }
        end

        def measure
          steps = (Numo::DFloat.cast(@x).diff**2 + Numo::DFloat.cast(@y).diff**2)**0.5
          @along = [0.0, *steps.cumsum.to_a]
        end

        # Between two samples, what the pen felt changes evenly with the way.
        def felt(counts, segment)
          along = Numo::DFloat.cast(@along[0...-1])
          ends = counts.each_with_object([0]) { |count, all| all << all.last + count }
          from = Numo::DFloat.cast(ends.map { |step| @along[step] })
          span = from[1..] - from[0...-1]
          part = (along - from[segment]) / span[segment]
          @pressure, @tilt_x, @tilt_y, @t = %i[pressure tilt_x tilt_y t].map do |name|
            column = Numo::DFloat.cast(@samples.public_send(name))
            (column[segment] + column.diff[segment] * part).to_a << column[-1]
          end
        end

        def hermite(axis, segment, part)
          at = Numo::DFloat.cast(axis)
          leave, arrive = tangents(axis)
          t2 = part * part
          t3 = t2 * part
          (t3 * 2 - t2 * 3 + 1) * at[segment] + (t3 - t2 * 2 + part) * leave[segment] +
            (t2 * 3 - t3 * 2) * at[segment + 1] + (t3 - t2) * arrive[segment]
        end

        # Tangents of the non-uniform spline with knots √distance apart; beyond both ends the
        # first and last step are mirrored.
        def tangents(axis)
          points = [2 * axis[0] - axis[1], *axis, 2 * axis[-1] - axis[-2]]
          knots = knots_apart
          slopes = points.each_cons(2).zip(knots).map { |(a, b), knot| (b - a) / knot }
          ends = (1...points.size - 1).map do |i|
            across = (points[i + 1] - points[i - 1]) / (knots[i - 1] + knots[i])
            slopes[i - 1] - across + slopes[i]
          end
          inner = knots[1...-1]
          [ends, ends.drop(1)].map { |beside|
            Numo::DFloat.cast(inner.zip(beside).map { |knot, slope| knot * slope })
          }
        end

        def knots_apart
          inner = chords.map { |chord| Math.sqrt(chord) }
          [inner.first, *inner, inner.last]
        end
      end
    end
  end
end
