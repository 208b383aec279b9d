# frozen_string_literal: true

module Fobrel
  module Actions
    # Shows hidden brushes again, where they were.
    class RestorePresets < Deed
      def initialize(library:, person:, ids:)
        @library = library
        @person = person
        @ids = ids
      end

      # @return [Models::HistoryEntry]
      def call
        presets = presets_of(@library, @ids).select(&:hidden_at)
        check_rights(@library, @person, presets)
        found = Models::Preset.where(id: presets)
        changes.watch(found, %w[hidden_at hidden_by_id]) { found.restore }
        write_changes(@library, @person, "unhide", "#{brushes(presets.size)} restored")
      end
    end
  end
end
