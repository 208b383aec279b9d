# frozen_string_literal: true

module Fobrel
  module Actions
    # Gives an edition a name or a note, or takes them off. What it paints never changes.
    class DescribeEdition < Action
      # @param name [String, nil] empty takes it off; nil leaves it
      # @param note [String, nil] the same
      def initialize(preset:, number:, name: nil, note: nil)
        @edition = preset.editions.find_by!(number:)
        @name = name&.strip
        @note = note&.strip
      end

      # @return [void]
      def call
        Models::Edition.where(id: @edition.id).update_all(note: @note[0, 500]) if @note
        return unless @name
        found = Models::EditionName.find_or_initialize_by(edition: @edition)
        @name.empty? ? (found.destroy! if found.persisted?) : found.update!(name: @name)
      end
    end
  end
end
