# frozen_string_literal: true

module Fobrel
  module Api
    # What the page may ask for when it has a preset painted: along which movement, on which
    # ground, in which colour and size, by whose hand.
    module Trying
      # @param try [Hash, nil] as openapi.yaml describes Try
      # @return [Hash] what Core::Stroke::Strip.paint takes
      def way(try)
        try = {} if try.nil?
        bad("try") unless try.is_a?(Hash)
        {
          trial: trial(try["trial"]),
          colour: colour(try["colour"]),
          ground: ground(try["ground"]),
          size: size(
            try["size"]
          ),
          hand: (try["hand"] == true) ? Models::Hand.of(person) : nil
        }.compact
      end

      # @param name [String, nil] of a shipped trial stroke, or own-<number>
      # @return [Core::Stroke::TrialStroke, nil]
      def trial(name)
        return if name.nil?
        own = name.to_s[/\Aown-(\d{1,18})\z/, 1]
        own ? person.trial_strokes.find(own.to_i).value : Core::Stroke::TrialStroke.fetch(name)
      end

      def colour(text) = text && Core::Stroke::Colour.parse(text)

      def ground(name)
        return if name.nil?
        Core::Stroke::Ground::NAMES.include?(name) ? name : bad("ground")
      end

      def size(number)
        return if number.nil?
        (number.is_a?(Numeric) && number.between?(0.5, 5000)) ? number.to_f : bad("size")
      end

      def samples(list) = Core::Stroke::Samples.from_list(list)

      private

      def bad(what) = raise(Base::Halt.new(400, "#{what} is not one of those that can be painted."))
    end
  end
end
