# frozen_string_literal: true

module Fobrel
  module Actions
    # Starts the painting program's stand-in on a seat and keeps what it reports.
    class RestartSeat < Action
      def initialize(seat:)
        @seat = seat
      end

      # @return [Models::Seat]
      # @raise [Core::Problem] when nothing was handed out yet
      def call
        report = Core::Startup::Start.run(@seat.path)
        @seat.update!(report: report.except(:folder))
        @seat
      rescue Core::Problem => e
        raise e if @seat.handed_out_at
        raise Core::Problem, "Nothing was handed out to #{@seat.name} yet. Hand its start plan out first."
      end
    end
  end
end
