# frozen_string_literal: true

module Fobrel
  module Actions
    # Keeps what was decided about an arrival.
    class Decide < Action
      WHERE = %w[set place mode family tags sets bundle].freeze

      # @param arrival [Models::Arrival]
      # @param choices [Hash] "items", "all", "ways", "where"; those left out stay as they are
      def initialize(arrival:, choices:)
        @arrival = arrival
        @choices = choices
      end

      # @return [Models::Arrival]
      def call
        @arrival.lock!
        unless @arrival.state == "planned"
          raise Core::Problem,
            "This import is not waiting for a decision. Nothing was changed."
        end
        kept = @arrival.choices
        %w[items all ways].each { |key| kept[key] = words(@choices[key]) if @choices[key].is_a?(Hash) }
        kept["where"] = @choices["where"].slice(*WHERE) if @choices["where"].is_a?(Hash)
        @arrival.update!(choices: kept)
        @arrival
      end

      private

      def words(hash) = hash.first(20_000).to_h { |key, value| [key.to_s[0, 400], value.to_s[0, 40]] }
    end
  end
end
