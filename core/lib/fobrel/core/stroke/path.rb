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
          after = part.zero? ? step : step + 1
          Place.new(
            distance,
            mix(@x[step], @x[after], part),
            mix(@y[step], @y[after], part),
            @direction[step],
            mix(@pressure[step], @pressure[after], part),
            mix(@tilt_x[step], @tilt_x[after], part),
            mix(@tilt_y[step], @tilt_y[after], part),
            mix(@t[step], @t[after], part)
          )
        end

        # @param distances [Array<Float>] pixels along the path, held within it; quickest in rising order
        # @return [Array<Float>] ms
        def times_at(distances)
          distances.map do |distance|
            step = step_at(distance)
            part = part_of(step, distance)
            part.zero? ? @t[step] : mix(@t[step], @t[step + 1], part)
          end
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

        def mix(from, to, part) = from + (to - from) * part

        def point
          @along = [0.0]
          @direction = [0.0]
          Samples::COLUMNS.each_value { |name| instance_variable_set(:"@#{name}", @samples.public_send(name)) }
        end

        # Evaluates all segments at once. A step is known by its segment and by how much of that lies before it.
        def follow
          x, y = [@samples.x, @samples.y].map { |axis| Numo::DFloat.cast(axis) }
          chords = (x.diff**2 + y.diff**2)**0.5
          counts = counted(chords)
          segment = Numo::Int32.cast(counts.each_with_index.flat_map { |count, index| [index] * count })
          before = Numo::DFloat.cast([0, *counts]).cumsum
          part = (Numo::DFloat.new(segment.size).seq - before[segment]) / Numo::DFloat.cast(counts)[segment]
          knots = chords**0.5
          x, y = [x, y].map { |axis| hermite(axis, knots, segment, part).append(axis[-1]) }
          measure(x, y)
          felt(segment, before)
        end

        # How many steps each segment is followed in.
        def counted(chords)
          counts = (chords / STEP).ceil.clip(LEAST, MOST_STEPS).to_a.map(&:to_i)
          return counts if counts.sum <= MOST_STEPS
          raise Samples::Invalid, "The stroke is longer than #{MOST_STEPS} px and cannot be followed."
        end

        # The page's y runs down, angles run counter-clockwise.
        def measure(x, y)
          across = x.diff
          down = y.diff
          @x = x.to_a
          @y = y.to_a
          @along = [0.0, *((across**2 + down**2)**0.5).cumsum.to_a]
          @direction = Numo::NMath.atan2(down * -1.0 + 0.0, across).to_a
        end

        # Between two samples, what the pen felt changes evenly with the way.
        def felt(segment, before)
          along = Numo::DFloat.cast(@along)
          ends = along[Numo::Int32.cast(before)]
          part = (along[0...-1] - ends[segment]) / ends.diff[segment]
          @pressure, @tilt_x, @tilt_y, @t = %i[pressure tilt_x tilt_y t].map do |name|
            column = Numo::DFloat.cast(@samples.public_send(name))
            (column[segment] + column.diff[segment] * part).to_a << column[-1]
          end
        end

        def hermite(axis, knots, segment, part)
          leave, arrive = tangents(axis, knots)
          t2 = part * part
          t3 = t2 * part
          (t3 * 2 - t2 * 3 + 1) * axis[segment] + (t3 - t2 * 2 + part) * leave[segment] +
            (t2 * 3 - t3 * 2) * axis[segment + 1] + (t3 - t2) * arrive[segment]
        end

        # Tangents of the non-uniform spline with knots √distance apart; beyond both ends the
        # first and last step are mirrored.
        def tangents(axis, knots)
          steps, apart = [axis.diff, knots].map { |column| column[[0, *0...column.size, -1]] }
          slopes = steps / apart
          across = (steps[0...-1] + steps[1..]) / (apart[0...-1] + apart[1..])
          ends = slopes[0...-1] - across + slopes[1..]
          [knots * ends[0...-1], knots * ends[1..]]
        end
      end
    end
  end
end
