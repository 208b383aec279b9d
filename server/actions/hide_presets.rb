# frozen_string_literal: true

module Fobrel
  module Actions
    # Puts brushes into the Attic. They keep their editions, tags and places.
    class HidePresets < Deed
      def initialize(library:, person:, ids:)
        @library = library
        @person = person
        @ids = ids
      end

      # @return [Models::LedgerEntry]
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
