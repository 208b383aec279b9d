# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # One answer of the brush to the hand: from + (to − from) · curve(sensor).
      class Response
        # Settings whose responses add to the base; all others multiply it.
        ADDING = %w[angle hue saturation lightness].freeze

        # @param drives [String] what a response drives
        # @return [String] the unit of its from and to
        def self.unit(drives) = %w[angle hue].include?(drives) ? "°" : "%"

        # What drives what is driven together.
        #
        # @param drives [String]
        # @param answers [Array<Float>] of all responses that drive it
        # @return [Float] what its base is multiplied by, or what is added to it
        def self.together(drives, answers) = ADDING.include?(drives) ? answers.sum : answers.inject(:*)

        # @return [String] what it drives, and the sensor that it follows
        attr_reader :drives, :by

        # @param setting [Hash] an entry of a preset's `response`
        def initialize(setting)
          @drives = setting.fetch("drives")
          @by = setting.fetch("by")
          @from = setting.fetch("from", 0.0)
          @to = setting.fetch("to", 1.0)
          @curve = Curve.through(setting.fetch("curve", Curve::STRAIGHT))
          freeze
        end

        # @param reading [Float] of its sensor, 0–1
        # @return [Float]
        def answer(reading) = @from + (@to - @from) * @curve.at(reading)
      end
    end
  end
end
