# frozen_string_literal: true

module Fobrel
  module Actions
    # Begins to take an arrival in, if its plan is still the one that was looked at.
    class Apply < Action
      # @param stamp [String] of the plan that was looked at
      def initialize(arrival:, person:, stamp:)
        @arrival = arrival
        @person = person
        @stamp = stamp
      end

      # @return [Models::Arrival]
      # @raise [Overtaken] when the library has changed since
      def call
        @arrival.lock!
        unless @arrival.state == "planned"
          raise Core::Problem,
            "This import has already been decided. Nothing was changed."
        end
        unless Models::Arrival.stamp(@arrival.plan(@person)) == @stamp
          raise Overtaken,
            "The library has changed since this preview. Nothing was imported. Check the preview again."
        end
        @arrival.update!(state: "applying")
        @arrival.update!(
          task: Jobs::ApplyArrival.begin(
            library: @arrival.library,
            person: @person,
            about: {"arrival" => @arrival.id},
            message: "Importing #{@arrival.name}"
          )
        )
        @arrival
      end
    end
  end
end
