# frozen_string_literal: true

module Fobrel
  module Actions
    # Keeps what was decided about an import.
    class Decide < Action
      WHERE = %w[set place mode category tags sets bundle].freeze

      # @param import [Models::Import]
      # @param choices [Hash] "items", "all", "ways", "where"; those left out stay as they are
      def initialize(import:, choices:)
        @import = import
        @choices = choices
      end

      # @return [Models::Import]
      def call
        @import.lock!
        unless @import.state == "planned"
          raise Core::Problem,
            "This import is not waiting for a decision. Nothing was changed."
        end
        kept = @import.choices
        %w[items all ways].each { |key| kept[key] = words(@choices[key]) if @choices[key].is_a?(Hash) }
        kept["where"] = @choices["where"].slice(*WHERE) if @choices["where"].is_a?(Hash)
        @import.update!(choices: kept)
        @import
      end

      private

      def words(hash) = hash.first(20_000).to_h { |key, value| [key.to_s[0, 400], value.to_s[0, 40]] }
    end
  end
end
