# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # One pen movement in columns: where the pen was, how hard it pressed, how it leaned, when.
      #
      #   samples = Samples.from_list([{"x" => 0, "y" => 0}, {"x" => 40, "y" => 12, "pressure" => 0.8}])
      #   samples.pressure                           # => [0.5, 0.8]
      #   samples.with(pressure: [1.0, 1.0])         # the same line, pressed harder
      class Samples
        # Raised in one sentence when a list of samples cannot be a stroke.
        class Invalid < Problem; end

        MOST = 20_000
        # Columns by the names they have in JSON: page pixels (the first pixel's centre is 0.5, 0.5), pressure 0–1,
        # tilts in degrees −90–90, time in milliseconds.
        COLUMNS = {
          "x" => :x,
          "y" => :y,
          "pressure" => :pressure,
          "tiltX" => :tilt_x,
          "tiltY" => :tilt_y,
          "t" => :t
        }.freeze
        FALLBACK = {"pressure" => 0.5, "tiltX" => 0.0, "tiltY" => 0.0}.freeze
        # A pen's usual report rate, for samples without a time.
        STEP_MS = 8.0
        FURTHEST = 100_000

        # @return [Array<Float>] a column each, all of one length
        attr_reader(*COLUMNS.values)

        # @param list [Array<Hash>] samples with string or symbol keys; x and y are required
        # @return [Samples]
        # @raise [Invalid]
        def self.from_list(list)
          raise Invalid, "A stroke is a list of samples with x and y. This is something else." unless list.is_a?(Array)
          raise Invalid, "The stroke has no samples. Draw at least one point." if list.empty?
          raise Invalid, "The stroke has #{list.size} samples; at most #{MOST} can be painted." if list.size > MOST
          list = list.map.with_index { |sample, index| keyed(sample, index) }
          new(
            **COLUMNS.to_h { |name, column|
              [column, list.map.with_index { |sample, index| number(sample, name, index) }]
            }
          )
        end

        def self.keyed(sample, index)
          raise Invalid, "Sample #{index + 1} is not an object with x and y." unless sample.is_a?(Hash)
          sample.transform_keys(&:to_s)
        end
        private_class_method :keyed

        def self.number(sample, name, index)
          value = sample.fetch(name) { (name == "t") ? index * STEP_MS : FALLBACK[name] }
          unless value.is_a?(Numeric) && value.to_f.finite? && value.abs < 1e12
            raise Invalid, "Sample #{index + 1} has no number for #{name}."
          end
          hold(name, value.to_f, index)
        end
        private_class_method :number

        def self.hold(name, value, index)
          case name
          when "pressure" then value.clamp(0.0, 1.0)
          when "tiltX", "tiltY" then value.clamp(-90.0, 90.0)
          when "t" then value
          else
            return value if value.abs <= FURTHEST
            raise Invalid, "Sample #{index + 1} lies #{value.round} px out, too far from any page."
          end
        end
        private_class_method :hold

        # @param columns [Hash{Symbol => Array<Float>}] all of COLUMNS
        def initialize(x:, y:, pressure:, tilt_x:, tilt_y:, t:)
          @x = x.freeze
          @y = y.freeze
          @pressure = pressure.freeze
          @tilt_x = tilt_x.freeze
          @tilt_y = tilt_y.freeze
          @t = t.freeze
          freeze
        end

        # @return [Integer]
        def size = x.size

        def inspect = "#<#{self.class.name} #{size} samples>"

        # @return [Hash{Symbol => Array<Float>}]
        def columns = COLUMNS.values.to_h { |name| [name, public_send(name)] }

        # @return [Array<Hash>] as .from_list takes it, to be kept
        def to_list
          rows = columns.values.transpose
          rows.map { |row| COLUMNS.keys.zip(row.map { |number| number.round(3) }).to_h }
        end

        # @return [Samples] with some columns in place of its own
        def with(**changed) = Samples.new(**columns, **changed)

        # @return [Samples] those of these places, in this order
        def pick(indexes) = Samples.new(**columns.transform_values { |column| column.values_at(*indexes) })

        # The same movement on another page.
        def stretch(across, down) = with(x: x.map { |x| x * across }, y: y.map { |y| y * down })

        # Samples in one place melt into one (the hardest press counts), so that a path has no
        # steps of no length.
        def distinct
          places = size.times.slice_when { |a, b| Math.hypot(x[b] - x[a], y[b] - y[a]) > 1e-9 }
          pick(places.map { |here| here.max_by { |index| pressure[index] } })
        end
      end
    end
  end
end
