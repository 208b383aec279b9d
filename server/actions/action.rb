# frozen_string_literal: true

module Fobrel
  module Actions
    # One thing a person does, whole or not at all. The only place that writes.
    class Action
      # Raised when somebody else was faster; nothing was overwritten.
      class Overtaken < Core::Problem; end

      # Runs the action in one transaction.
      def self.call(...) = Models::Record.transaction(requires_new: true) { new(...).call }

      private

      def write_down(library, person, kind, summary, undo = {})
        Models::LedgerEntry.create!(library:, person:, kind:, summary:, undo:)
      end

      # Presets of this library only, whatever was asked for.
      def presets_of(library, ids)
        found = library.presets.where(id: ids).includes(:current_edition, :home_edition).index_by(&:id)
        missing = ids.map(&:to_i).uniq - found.keys
        raise Core::Problem, "#{missing.size} of the picked brushes are no longer in this library. Nothing was changed. Reload and pick again." if missing.any?
        ids.map(&:to_i).uniq.map { found[_1] }
      end
    end
  end
end
