# frozen_string_literal: true

module Fobrel
  module Actions
    # Lets an arrival go: what was not taken in is forgotten.
    class LetGo < Action
      # @param arrival [Models::Arrival]
      def initialize(arrival:)
        @arrival = arrival
      end

      # @raise [Core::Problem] while it is being taken in
      def call
        @arrival.lock!
        if @arrival.state == "applying"
          raise Core::Problem, "This import is under way. Wait until it has finished."
        end
        task = @arrival.task
        task.fail("“#{@arrival.name}” was discarded. Nothing was imported.") unless task.nil? || task.over?
        @arrival.clear
        @arrival.items.delete_all unless @arrival.state == "applied"
        @arrival.update!(state: "left")
      end
    end
  end
end
