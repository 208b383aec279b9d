# frozen_string_literal: true

module Fobrel
  module Actions
    # Deletes a set. Its brushes stay; an undo makes it again as it was.
    class DeleteSet < Action
      def initialize(set:, person:)
        @set = set
        @person = person
      end

      # @return [Models::LedgerEntry]
      def call
        undo = {"set" => @set.slice(:name, :query), "ids" => @set.preset_ids_in_order, "sections" => @set.section_by_preset}
        @set.destroy!
        write_down(@set.library, @person, "delete set", "The set “#{@set.name}” deleted; its brushes stay", undo)
      end
    end
  end
end
