# frozen_string_literal: true

module Fobrel
  module Jobs
    # The workers of this process, and the watch over the folder where deliveries may appear.
    module Queue
      # What is done within seconds, and waited for.
      SHORT = 40
      LONG = 100
      NIGHT = 300

      # @param workers [Integer] for any work; one more is kept free for what is short
      def self.start(workers:)
        Que.logger = nil
        @workers = workers
        @locker = locker
        @threads = [Thread.new { guard }, Thread.new { WatchedFolder.watch }, Thread.new { WatchedDesks.watch }]
      end

      # Lets what is under way end; what is not begun waits for the next start.
      def self.stop
        @threads&.each(&:kill)
        @locker&.stop!
        @locker = @threads = nil
      end

      class << self
        private

        # Its threads may end with the database, which must not end the process.
        def locker
          Que::Locker.new(
            worker_priorities: [SHORT, *[nil] * @workers],
            maximum_buffer_size: @workers + 1,
            poll_interval: 2,
            wait_period: 50
          ).tap do |one|
            [one, *one.workers].map(&:thread).each do |thread|
              Thread.pass until thread.abort_on_exception || !thread.alive?
              thread.abort_on_exception = thread.report_on_exception = false
            end
          end
        end

        # When the database was away, the queue's threads are gone: others are begun, and
        # connections that the old ones had are given up.
        def guard
          loop do
            sleep 2
            Models::Pulse.beat("work")
            CleanUp.due
            next if [@locker, *@locker.workers].all? { _1.thread.alive? }
            ActiveRecord::Base.connection_pool.tap(&:reap).flush!
            @locker.stop if @locker.thread.alive?
            @locker = locker
          rescue => e
            Watching::Log.trouble("The queue of long work", e)
          end
        end
      end
    end
  end
end
