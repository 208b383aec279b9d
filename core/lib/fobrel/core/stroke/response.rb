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

        attr_reader :drives

        # @param setting [Hash] an entry of a preset's `response`
        def initialize(setting)
          @drives = setting.fetch("drives")
          @by = setting.fetch("by")
          @from = setting.fetch("from", 0.0)
          @to = setting.fetch("to", 1.0)
          @curve = Curve.through(setting.fetch("curve", Curve::STRAIGHT))
          freeze
        end

        # @param sensor [Proc] from a sensor's name to its reading 0–1
        # @return [Float]
        def answer(sensor) = @from + (@to - @from) * @curve.at(sensor.call(@by))

        # All responses of a preset to one reading of the sensors.
        #
        # @param responses [Array<Response>]
        # @return [Hash{String => Float}] what each driven setting is multiplied by, or added to
        def self.together(responses, sensor)
          responses.each_with_object({}) do |response, driven|
            name = response.drives
            value = response.answer(sensor)
            driven[name] = if ADDING.include?(name)
              driven.fetch(name, 0.0) + value
            else
              driven.fetch(name, 1.0) * value
            end
          end
        end
      end
    end
  end
end
