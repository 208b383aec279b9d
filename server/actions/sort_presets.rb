# frozen_string_literal: true

module Fobrel
  module Actions
    # Hangs brushes on a category, or gives them a status.
    class SortPresets < Deed
      KINDS = {"category" => :category_id, "status" => :status_id}.freeze

      # @param kind [String] a key of KINDS
      # @param place [Models::Category, Models::Status, nil] nil takes them off
      def initialize(library:, person:, ids:, kind:, place:)
        @library = library
        @person = person
        @ids = ids
        @kind = kind
        @place = place
      end

      # @return [Models::HistoryEntry]
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
        "#{(@kind == "category") ? "in the category" : "with the status"} “#{@place.name}”"
      end
    end
  end
end
