# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # One person’s adjustments, laid over any brush for this person only: how hard they press, how
      # much their line is steadied at the least, how large they paint at the most, and whether
      # the pen's lean is mirrored for a left hand.
      #
      #   adjustments = Adjustments["curve" => [[0, 0], [0.5, 1], [1, 1]], "smoothing" => 0.2]
      #   Painter.new(adjustments.brush(preset)).paint(adjustments.movement(samples))
      class Adjustments
        # Raised when they are no such settings.
        class Invalid < Problem; end

        DEFAULTS = {"curve" => Curve::STRAIGHT, "smoothing" => 0.0, "maximum_size" => nil, "mirrored" => false}.freeze
        # The shares of all samples whose pressures a fit looks at.
        QUANTILES = [0.05, 0.25, 0.5, 0.75, 0.95].freeze
        # A fit to fewer samples than this says nothing about how somebody presses.
        ENOUGH = 40

        # @param settings [Hash] keys of DEFAULTS; what is left out is at its default
        # @return [Adjustments]
        # @raise [Invalid]
        def self.[](settings)
          settings = DEFAULTS.merge(settings.to_h.slice(*DEFAULTS.keys))
          unless curve?(settings["curve"])
            raise Invalid,
              "A pressure curve runs from left to right through points between 0 and 1. Nothing was changed."
          end
          unless settings["smoothing"].is_a?(Numeric) && settings["smoothing"].between?(
            0, 1
          )
            raise Invalid,
              "The least smoothing lies between 0 and 1. Nothing was changed."
          end
          if settings["maximum_size"] && !(settings["maximum_size"].is_a?(Numeric) && settings["maximum_size"].between?(
            0.5, 5000
          ))
            raise Invalid,
              "The greatest size lies between 0.5 and 5000 px. Nothing was changed."
          end
          new(settings.merge("mirrored" => settings["mirrored"] == true))
        end

        # A pressure curve under which strokes drawn from light to hard spread evenly over the
        # whole range: the pressure that a given share of the samples stays below is read as
        # that share.
        #
        # @param strokes [Array<Samples>]
        # @return [Array<Array(Float, Float)>] points of a Curve
        # @raise [Invalid] when there are too few samples, or the pen sends no pressure
        def self.fit(strokes)
          pressures = strokes.flat_map(&:pressure).select(&:positive?).sort
          if pressures.size < ENOUGH
            raise Invalid,
              "That was too little to go by. Draw three or four strokes from light to hard."
          end
          if pressures.last - pressures.first < 0.02
            raise Invalid,
              "The pressure never changed, so there is nothing to fit. Does the pen send pressure? The gauges of the " \
                "pad show it."
          end
          found = QUANTILES.map { |share| [pressures[((pressures.size - 1) * share).round].round(3), share] }
          inner = found.select { |x, _|
            x > 0.01 && x < 0.99
          }.slice_when { |a, b| b[0] - a[0] > 0.01 }.map { |close| close[close.size / 2] }
          [[0.0, 0.0], *inner, [1.0, 1.0]]
        end

        def self.curve?(points)
          points.is_a?(Array) && points.size.between?(2, 32) &&
            points.all? { |point|
              point.is_a?(Array) && point.size == 2 && point.all? {
                _1.is_a?(Numeric) && _1.between?(0, 1)
              }
            } &&
            points.each_cons(2).all? { |a, b| b[0] > a[0] }
        end
        private_class_method :curve?

        # @return [Hash] as it is kept
        attr_reader :settings
        # @return [Curve] from the pen's pressure to what it means
        attr_reader :curve

        def initialize(settings)
          @settings = settings.freeze
          @curve = Curve.through(settings["curve"])
          freeze
        end

        # @return [Boolean] whether it changes nothing
        def plain? = settings == DEFAULTS

        # @param samples [Samples] as the pen sent them
        # @return [Samples] as these adjustments mean them
        def movement(samples)
          return samples if plain?
          samples.with(
            pressure: samples.pressure.map { |pressure| @curve.at(pressure) },
            tilt_x: settings["mirrored"] ? samples.tilt_x.map(&:-@) : samples.tilt_x
          )
        end

        # @param preset [Preset::Preset]
        # @return [Preset::Preset] as this person paints with it; the preset itself stays as it is
        def brush(preset)
          most = settings["maximum_size"]
          size = preset["tip", "size"]
          changes = []
          changes << change(%w[stroke smoothing], settings["smoothing"]) if settings["smoothing"] > preset["stroke",
            "smoothing"]
          size.each { |key, value| changes << change(["tip", "size", key], most) if value > most } if most
          changes.empty? ? preset : Preset::Changes.new(changes).apply(preset)
        end

        private

        def change(path, value) = Preset::Changes::Change.new(path, nil, value)
      end
    end
  end
end
