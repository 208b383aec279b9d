# frozen_string_literal: true

module Fobrel
  module Actions
    # Decides what a seat loads at start, and in which order.
    class PlanStart < Deed
      def initialize(seat:, person:, ids:)
        @seat = seat
        @person = person
        @ids = ids
      end

      # @return [Models::LedgerEntry]
      def call
        @seat.lock!
        ids = presets_of(@seat.library, @ids).map(&:id)
        changes.watch_order(@seat) { @seat.put_in_order(ids) }
        write_down(@seat.library, @person, "start plan", "#{ids.size} brushes in the start plan of #{@seat.name}")
      end
    end
  end
end
