# frozen_string_literal: true

module Fobrel
  module Actions
    # Gives an important edition a name, or takes it off.
    class NameEdition < Action
      # @param name [String] empty takes it off
      def initialize(preset:, number:, name:)
        @edition = preset.editions.find_by!(number:)
        @name = name.strip
      end

      # @return [void]
      def call
        found = Models::EditionName.find_or_initialize_by(edition: @edition)
        @name.empty? ? (found.destroy! if found.persisted?) : found.update!(name: @name)
      end
    end
  end
end
