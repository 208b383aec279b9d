# frozen_string_literal: true

module Fobrel
  module Models
    # What each process says of itself every few seconds: how many are being painted for, how many wait,
    # how much memory it has.
    class Pulse < Record
      EVERY = 5
      # One that is older belongs to a process that is gone.
      FRESH = 30.seconds

      @lock = Mutex.new
      @next = 0

      class << self
        # Says it, if it was not said a moment ago.
        #
        # It is not worth failing for.
        #
        # @param kind [String] "web" or "work"
        def beat(kind)
          now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
          return unless @lock.synchronize { (now >= @next) && (@next = now + EVERY) }
          upsert(
            {host: Socket.gethostname, pid: Process.pid, kind:, said:, seen_at: Time.current},
            unique_by: %i[host pid]
          )
        rescue ActiveRecord::ActiveRecordError
          nil
        end

        # @return [ActiveRecord::Relation<Pulse>]
        def now = where(seen_at: FRESH.ago..).order(:kind, :pid)

        private

        def said
          crew = Core::Apart.crew.lengths
          {
            requests: App::Room.here.count.fetch(:any, 0),
            painting: crew[:running].values.sum,
            waiting: crew[:waiting].values.sum,
            memory: memory
          }
        end

        # Resident, bytes.
        def memory = Integer(File.read("/proc/self/statm").split[1]) * 4096
      end
    end
  end
end
