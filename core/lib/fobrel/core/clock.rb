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

      # @param seconds [Numeric] from now; a longer one within a shorter one changes nothing
      def self.within(seconds)
        before = Thread.current[:fobrel_until]
        Thread.current[:fobrel_until] = [[now + seconds, seconds], before].compact.min_by(&:first)
        yield
      ensure
        Thread.current[:fobrel_until] = before
      end

      # @return [Float, nil] seconds; nil where nobody set a time
      def self.left = Thread.current[:fobrel_until]&.then { |till, _| [till - now, 0].max }

      # @raise [Over]
      def self.tick
        till, seconds = Thread.current[:fobrel_until]
        return unless till && now > till
        raise Over, "This takes longer than #{seconds.round} seconds, so it was given up. Nothing was changed."
      end

      def self.now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
      private_class_method :now
    end
  end
end
