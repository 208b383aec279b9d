# frozen_string_literal: true

module Fobrel
  module Jobs
    # The workers of this process, and the watch over the folder where deliveries may appear.
    module Queue
      # @param workers [Integer] JOB_WORKERS; 0 leaves the work to other processes
      def self.start(workers: Integer(ENV.fetch("JOB_WORKERS", 1)))
        return if workers.zero?
        Que.logger = nil
        @locker = Que::Locker.new(worker_count: workers, worker_priorities: Array.new(workers), poll_interval: 2, wait_period: 50)
        @watch = Thread.new { WatchedFolder.watch }
      end

      # Lets what is under way end; what is not begun waits for the next start.
      def self.stop
        @watch&.kill
        @locker&.stop!
        @locker = @watch = nil
      end
    end
  end
end
