# frozen_string_literal: true

module Fobrel
  module Actions
    # An action that the history writes down and that can be taken back. It does what it does inside `changes`,
    # which writes down each row before and after; the undo needs nothing else, see History::GoingBack.
    #
    #   class Whiten < Deed
    #     def call
    #       changes.watch(@library.tags, %w[colour]) { @library.tags.update_all(colour: "#ffffff") }
    #       write_down(@library, @person, "whiten", "All tags white")
    #     end
    #   end
    class Deed < Action
      private

      # @return [History::Changes] what this deed has changed until now
      def changes = @changes ||= History::Changes.new

      NOTHING = "Nothing to change."
      private_constant :NOTHING

      # As #write_down; what is so already is not written down again.
      #
      # @raise [Core::Problem]
      def write_changes(...)
        raise Core::Problem, NOTHING if changes.empty?
        write_down(...)
      end

      # @param kind [String] what the history calls such deeds
      # @param summary [String] for people
      # @param about [Array<Models::Record>] what it is about beside the rows that it changed
      # @return [Models::HistoryEntry]
      def write_down(library, person, kind, summary, about: [])
        Models::HistoryEntry.write(library, person, kind, summary, changes, about:)
      end
    end
  end
end
