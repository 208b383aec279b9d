# frozen_string_literal: true

module Fobrel
  module Actions
    # Hangs brushes on a family, or gives them a work state.
    class SortPresets < Deed
      KINDS = {"family" => :family_id, "label" => :label_id}.freeze

      # @param kind [String] a key of KINDS
      # @param place [Models::Family, Models::WorkState, nil] nil takes them off
      def initialize(library:, person:, ids:, kind:, place:)
        @library = library
        @person = person
        @ids = ids
        @kind = kind
        @place = place
      end

      # @return [Models::LedgerEntry]
      def call
        column = KINDS.fetch(@kind)
        changed = presets_of(@library, @ids).reject { _1[column] == @place&.id }
        found = Models::Preset.where(id: changed)
        changes.watch(found, [column.to_s]) { found.update_all(column => @place&.id) }
        write_changes(@library, @person, @kind, "#{brushes(changed.size)} #{said}")
      end

      private

      def said
        return "without #{@kind}" unless @place
        "#{(@kind == "family") ? "in the category" : "with the status"} “#{@place.name}”"
      end
    end
  end
end
