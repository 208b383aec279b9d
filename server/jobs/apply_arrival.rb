# frozen_string_literal: true

module Fobrel
  module Jobs
    # Takes an arrival in as its plan says, then paints what is new.
    class ApplyArrival < Job
      def self.needs(_about) = :bring

      # So many are taken in within seconds.
      FEW = 200
      # About how long a brush takes, and a place in a set, seconds (two cores of 2026).
      EACH = 0.003
      PLACE = 0.0006
      private_constant :FEW, :EACH, :PLACE

      # @param brushes [Integer] that come
      # @param places [Integer] in sets
      # @return [Integer] seconds, about
      def self.seconds(brushes, places) = (brushes * EACH + places * PLACE).ceil

      def self.short?(about) = Models::ArrivalItem.where(arrival_id: about["arrival"]).count <= FEW

      private

      def work(about)
        @arrival = Models::Arrival.find(about.fetch("arrival"))
        Models::Record.transaction(requires_new: true) do
          @arrival.lock!
          next let_go unless @arrival.state == "applying"
          Actions::TakeIn.call(arrival: @arrival, person: @task.person, progress:)
          @task.finish(
            @arrival.ledger_entry ? "Imported. #{@arrival.ledger_entry.summary}" : "Everything in it is here " \
              "already. Nothing was added."
          )
        end
        PaintStrips.enqueue(@arrival.ledger_entry.what_changed.ids_that_came("presets")) if @arrival.ledger_entry
      end

      def let_go = @task.fail("“#{@arrival.name}” was discarded. Nothing was imported.")

      def undone = @arrival&.reload&.update!(state: "planned")
    end
  end
end
