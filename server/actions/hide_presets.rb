# frozen_string_literal: true

module Fobrel
  module Actions
    # Puts brushes into the Attic, or brings them back. They keep their editions, tags and places.
    class HidePresets < Action
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
        changed = presets.map(&:id)
        Models::Preset.where(id: changed).update_all(
          @hidden ? {
            hidden_at: Time.current,
            hidden_by_id: @person.id
          } : {
            hidden_at: nil,
            hidden_by_id: nil
          }
        )
        write_down(
          @library,
          @person,
          @hidden ? "hide" : "bring back",
          "#{brushes(changed.size)} #{@hidden ? "hidden in the Attic" : "brought back from the Attic"}",
          {"presets" => changed}
        )
      end
    end
  end
end
