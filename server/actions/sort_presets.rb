# frozen_string_literal: true

module Fobrel
  module Actions
    # Hangs brushes on a family, or gives them a work state.
    class SortPresets < Action
      KINDS = {"family" => :family_id, "label" => :label_id}.freeze

      # @param kind [String] a key of KINDS
      # @param place [Models::Family, Models::Label, nil] nil takes them off
      def initialize(library:, person:, ids:, kind:, place:)
        @library = library
        @person = person
        @ids = ids
        @kind = kind
        @place = place
      end

      # @return [Models::LedgerEntry]
      def call
        presets = presets_of(@library, @ids)
        column = KINDS.fetch(@kind)
        changed = presets.reject { _1[column] == @place&.id }
        before = changed.map { [_1.id, _1[column]] }
        Models::Preset.where(id: changed.map(&:id)).update_all(column => @place&.id)
        said = if @place
          "#{(@kind == "family") ? "in the family" : "labelled"} “#{@place.name}”"
        else
          "without #{@kind}"
        end
        write_down(
          @library,
          @person,
          @kind,
          "#{brushes(changed.size)} #{said}",
          {"before" => before, "after" => @place&.id}
        )
      end
    end
  end
end
