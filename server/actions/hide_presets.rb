# frozen_string_literal: true

module Fobrel
  module Actions
    # Hides brushes. They keep their versions, tags and places.
    class HidePresets < Deed
      def initialize(library:, person:, ids:)
        @library = library
        @person = person
        @ids = ids
      end

      # @return [Models::HistoryEntry]
      def call
        presets = presets_of(@library, @ids).select { |preset| preset.hidden_at.nil? }
        check_rights(@library, @person, presets)
        found = Models::Preset.where(id: presets)
        changes.watch(found, %w[hidden_at hidden_by_id]) { found.hide(@person) }
        write_changes(@library, @person, "hide", "#{brushes(presets.size)} hidden")
      end
    end
  end
end
