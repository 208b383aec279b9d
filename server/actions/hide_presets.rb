# frozen_string_literal: true

module Fobrel
  module Actions
    # Puts brushes into the Attic, or brings them back. They keep their editions, tags and places.
    class HidePresets < Deed
      # @param hidden [Boolean]
      def initialize(library:, person:, ids:, hidden: true)
        @library = library
        @person = person
        @ids = ids
        @hidden = hidden
      end

      # @return [Models::LedgerEntry]
      def call
        presets = presets_of(@library, @ids).select { _1.hidden_at.nil? == @hidden }
        check_rights(@library, @person, presets)
        found = Models::Preset.where(id: presets)
        changes.watch(found, %w[hidden_at hidden_by_id]) { @hidden ? found.hide(@person) : found.bring_back }
        write_down(
          @library,
          @person,
          @hidden ? "hide" : "bring back",
          "#{brushes(presets.size)} #{@hidden ? "hidden in the Attic" : "brought back from the Attic"}"
        )
      end
    end
  end
end
