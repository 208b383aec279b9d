# frozen_string_literal: true

module Fobrel
  module Jobs
    # Lays the day's summaries into the outbox; see Reports::Summary.
    class DailySummary < Que::Job
      self.priority = Queue::NIGHT
      self.maximum_retry_count = 3

      def run = Reports::Summary.write_all
    end
  end
end
