# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # One pen movement: where the pen was, how hard it pressed, how it leaned, when.
      class Samples
        # Raised in one sentence when a list of samples cannot be a stroke.
        class Invalid < Problem; end

        MOST = 20_000
        # Columns of a sample: page pixels (the first pixel's centre is 0.5, 0.5), pressure 0–1,
        # tilts in degrees −90–90, time in milliseconds.
        COLUMNS = %w[x y pressure tiltX tiltY t].freeze
        FALLBACK = {"pressure" => 0.5, "tiltX" => 0.0, "tiltY" => 0.0}.freeze
        # A pen's usual report rate, for samples without a time.
        STEP_MS = 8.0
        FURTHEST = 100_000

        # @return [Array<Array<Float>>] rows in the order of COLUMNS
        attr_reader :rows

        # @param list [Array<Hash>] samples with string or symbol keys; x and y are required
        # @return [Samples]
        # @raise [Invalid]
        def self.from_list(list)
          raise Invalid, "A stroke is a list of samples with x and y. This is something else." unless list.is_a?(Array)
          raise Invalid, "The stroke has no samples. Draw at least one point." if list.empty?
          raise Invalid, "The stroke has #{list.size} samples; at most #{MOST} can be painted." if list.size > MOST
          new(list.map.with_index { |sample, index| row(sample, index) })
        end

        def self.row(sample, index)
          raise Invalid, "Sample #{index + 1} is not an object with x and y." unless sample.is_a?(Hash)
          sample = sample.transform_keys(&:to_s)
          COLUMNS.map do |column|
            value = sample.fetch(column) { (column == "t") ? index * STEP_MS : FALLBACK[column] }
            unless value.is_a?(Numeric) && value.to_f.finite? && value.abs < 1e12
              raise Invalid, "Sample #{index + 1} has no number for #{column}."
            end
            hold(column, value.to_f, index)
          end
        end
        private_class_method :row

        def self.hold(column, value, index)
          case column
          when "pressure" then value.clamp(0.0, 1.0)
          when "tiltX", "tiltY" then value.clamp(-90.0, 90.0)
          when "x", "y"
            if value.abs > FURTHEST
              raise Invalid,
                "Sample #{index + 1} lies #{value.round} px out, too far from any page."
            end
            value
          else value
          end
        end
        private_class_method :hold

        def initialize(rows)
          @rows = rows.freeze
          freeze
        end

        # The same movement on another page.
        def stretch(across, down) = Samples.new(rows.map { |x, y, *rest| [x * across, y * down, *rest] })

        # Samples in one place melt into one (the hardest press counts), so that a path has no
        # steps of no length.
        def distinct
          melted = rows.slice_when { |a, b| Math.hypot(b[0] - a[0], b[1] - a[1]) > 1e-9 }
          Samples.new(melted.map { |group| group.max_by { _1[2] } })
        end
      end
    end
  end
end
