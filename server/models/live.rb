# frozen_string_literal: true

module Fobrel
  module Models
    # Tells all web processes that something is new, when the transaction has ended well (PostgreSQL's NOTIFY).
    # A page that listens asks for what it wants to know.
    module Live
      CHANNEL = "fobrel_live"
      # What somebody may see has become another: their lines end, and are looked at anew when they come again.
      ACCESS = "access"

      # @param library [Integer, nil] whose pages are told
      # @param people [Array<Integer>, nil] who is told, wherever they look
      # @param what [String] "library", "inbox", "bench"
      # @param about [Hash] what else is known
      def self.tell(what:, library: nil, people: nil, **about)
        return if people && people.empty?
        text = JSON.generate({what:, library:, people:, **about}.compact)
        Record.connection.exec_query("SELECT 1 FROM pg_notify($1, $2)", "Live", [CHANNEL, text])
      end
    end
  end
end
