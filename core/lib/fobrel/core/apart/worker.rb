# frozen_string_literal: true

module Fobrel
  module Core
    module Apart
      # What works in a process of its own: reads a call, does it, writes the answer; until nobody
      # asks any more. A message is its length in eight bytes and a marshalled value, both from and to
      # our own program.
      class Worker
        # @param memory [Integer] bytes beyond what the program itself takes
        # @param files [Integer] open at once
        # @param writes [Integer] bytes that a file may grow to
        # @param nice [Integer] how far it stands back behind those who answer people
        def initialize(socket, memory:, files:, writes:, nice:)
          @socket = socket
          Apart.inside!
          Process.setrlimit(:DATA, Integer(File.read("/proc/self/status")[/VmData:\s+(\d+)/, 1]) * 1024 + memory)
          Process.setrlimit(:NOFILE, files)
          Process.setrlimit(:FSIZE, writes)
          trap("XFSZ", "IGNORE")
          Process.setrlimit(:CORE, 0)
          Process.setpriority(Process::PRIO_PROCESS, 0, nice)
          # What was computed last is not asked for again here, and would only take room.
          Vips.cache_set_max(0)
          %w[INT TERM].each { trap(_1, "IGNORE") }
        end

        def serve
          Message.write(@socket, Process.pid)
          while (asked = Message.read(@socket))
            Message.write(@socket, done(*asked))
          end
        rescue SystemCallError, NoMemoryError
          nil # nobody listens, or there is not even room to say so
        rescue TypeError, ArgumentError => e
          Message.write(@socket, said_of(e)) # a value that cannot be copied
        end

        private

        def done(owner, method, args, named, seconds, within)
          used = Process.times.then { _1.utime + _1.stime }.ceil
          Process.setrlimit(:CPU, used + seconds.ceil + 1, Process.getrlimit(:CPU).last)
          call = -> { Object.const_get(owner).public_send(method, *args, **named) }
          [:done, Clock.within(within) { Clock.within(seconds, clock: Clock::PROCESSOR, &call) }]
        rescue Problem => e
          [:problem, e.class.name, e.message]
        rescue NoMemoryError
          [:memory]
        rescue => e
          said_of(e)
        end

        def said_of(error) = [:error, "#{error.class}: #{error.message}", error.backtrace.first(8)]
      end
    end
  end
end
