# frozen_string_literal: true

module Fobrel
  module Actions
    # Takes back what the ledger wrote down, keeping what people changed since.
    class Undo < Action
      # @param entry [Models::LedgerEntry]
      def initialize(entry:)
        @entry = entry
      end

      # @return [Array<String>] what could not be taken back, one sentence each
      def call
        @entry.lock!
        refuse
        kept = Ledger::GoingBack.new(@entry).call
        @entry.update!(undone_at: Time.current)
        kept
      end

      private

      def refuse
        raise Core::Problem, "This was undone already. Nothing was changed." if @entry.undone_at
        unless @entry.open?
          raise Core::Problem,
            "The undo of “#{@entry.summary}” was kept for as long as this library's rules say, and is gone. Nothing " \
              "was changed."
        end
        raise Core::Problem, "“#{@entry.summary}” cannot be undone. Nothing was changed." unless @entry.undoable?
      end
    end
  end
end
