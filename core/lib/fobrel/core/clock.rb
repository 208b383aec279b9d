# frozen_string_literal: true

module Fobrel
  module Core
    # Ends computation that would hold a processor for longer than anybody waits. Whoever asks sets the
    # time; the loops that paint look at it.
    #
    #   Clock.within(20) { Strip.png(preset) }   # raises Clock::Over
    module Clock
      # Raised in one sentence when the time is over.
      class Over < Problem; end

      # Processor time of this process; waiting for a processor doesn't count.
      PROCESSOR = Process::CLOCK_PROCESS_CPUTIME_ID
      WALL = Process::CLOCK_MONOTONIC
      Limit = Struct.new(:till, :seconds, :clock)
      private_constant :WALL, :Limit

      # @param seconds [Numeric] from now; a longer one within a shorter one changes nothing
      # @param clock [Integer] which clock counts them: wall time, or PROCESSOR
      def self.within(seconds, clock: WALL)
        before = Thread.current[:fobrel_limits]
        Thread.current[:fobrel_limits] = [*before, Limit.new(now(clock) + seconds, seconds, clock)]
        yield
      ensure
        Thread.current[:fobrel_limits] = before
      end

      # @return [Float, nil] seconds of wall time; nil where nobody set a limit to it
      def self.left
        limits.select { _1.clock == WALL }.map { [_1.till - now(WALL), 0].max }.min
      end

      # @raise [Over]
      def self.tick
        over = limits.find { _1.till < now(_1.clock) } or return
        raise Over, "This takes longer than #{over.seconds.round} seconds, so it was given up. Nothing was changed."
      end

      def self.limits = Thread.current[:fobrel_limits] || []
      def self.now(clock) = Process.clock_gettime(clock)
      private_class_method :limits, :now
    end
  end
end
