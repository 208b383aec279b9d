# frozen_string_literal: true

module Fobrel
  module Actions
    # Takes back what the history wrote down, keeping what people changed since.
    class Undo < Action
      # @param entry [Models::HistoryEntry]
      # @param person [Models::Person, nil] who takes it back; nil for whoever did it
      def initialize(entry:, person: nil)
        @entry = entry
        @person = person || entry.person
      end

      # What would have to stay, without taking anything back.
      #
      # @return [Array<String>] sentences; the reason alone where nothing can be taken back
      def self.look(entry:)
        stays = nil
        Models::Record.transaction(requires_new: true) do
          stays = new(entry: entry.class.find(entry.id)).call
          raise ActiveRecord::Rollback
        end
        stays
      rescue Core::Problem => e
        [e.message]
      end

      # @return [Array<String>] what could not be taken back, one sentence each
      def call
        @entry.lock!
        refuse
        back = History::GoingBack.new(@entry)
        kept = back.call
        @entry.update!(undone_at: Time.current)
        said = "Undone: #{@entry.summary}"[0, 500]
        about = @entry.about + History::Chain.rebased(back.rebased)
        Models::HistoryEntry.write(@entry.library, @person, "undo", said, about:)
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
