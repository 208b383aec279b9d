# frozen_string_literal: true

module Fobrel
  module Core
    # Runs what may take long, or what comes from outside, in processes of their own, beside the one
    # that asks: it only waits, and can leave. The system keeps their limits of time, memory and open
    # files (setrlimit, POSIX.1-2017).
    #
    #   Apart.call(Stroke::Strip, :png, preset, assets: {}, seconds: 20)
    #   Apart.call(Tip::Vector, :drawn, bytes, 64, fresh: true)   # in a new process, for strangers' files
    #
    # Arguments and answers are copied, so they must be plain values.
    module Apart
      # Raised in one sentence when it was ended.
      class Ended < Problem; end

      # Raised in one sentence when so many wait already that it was not begun.
      class Busy < Problem; end

      # Raised when whoever asked is not there any more; nobody reads it.
      class Gone < Problem; end

      SECONDS = 20
      # When nobody waits for the answer, a call may last this many times its processor time: the machine may be busy.
      PATIENCE = 10
      # With what the program itself takes, a process stays below 600 MB.
      MEMORY = 480 * 1024 * 1024
      FILES = 64

      # For whom something is done: a person and a studio (any values, nil for nobody), how soon
      # (one of RANKS) and where it can be seen that they have gone (an IO that ends, or nil).
      Turn = Struct.new(:who, :where, :rank, :gone, keyword_init: true)

      # Strokes that somebody follows with the hand, pictures that a page waits for, and all else.
      RANKS = %i[now soon later].freeze

      # What is called within the block is done for this turn.
      #
      # @param turn [Turn]
      def self.for(turn, &) = Meanwhile.set(:fobrel_turn, turn, &)

      # @return [Turn]
      def self.turn = Thread.current[:fobrel_turn] ||= Turn.new(rank: :later)

      # Calls a method of a module elsewhere; in such a process, it is simply called.
      #
      # @param owner [Module]
      # @param method [Symbol]
      # @param seconds [Numeric] of processor time. The call lasts no longer than the caller's Clock allows, or
      #   PATIENCE times this where the caller set none.
      # @param memory [Integer] bytes beyond what the program itself takes
      # @param fresh [Boolean] in a process that has done nothing before, and ends with it
      # @return what the method gives
      # @raise [Ended, Busy, Gone]
      # @raise [Problem] what the method raised
      def self.call(owner, method, *args, seconds: SECONDS, memory: MEMORY, fresh: false, **named)
        return owner.public_send(method, *args, **named) if inside?
        Clock.tick
        within = Clock.left || seconds * PATIENCE
        crew.call(turn, [owner.name, method, args, named], seconds:, within:, memory:, fresh:)
      end

      # Begins what the first call would have to wait for.
      #
      # @return [Thread]
      def self.warm = Thread.new { call(Stroke::Strip, :warm) }

      # @return [Boolean] whether this is a process that works for another
      def self.inside? = @inside

      # A file that this process has open, to be read by the one that works for it: large bytes need not
      # pass through either's hands.
      #
      #   Apart.call(Tip::ApartWork, :read_here, Apart::Lent.of(upload), name: "scan.jpg")
      Lent = Struct.new(:path) do
        # @param io [IO] open until the call has ended
        def self.of(io) = new("/proc/#{Process.pid}/fd/#{io.fileno}")

        # @return [String] all of it
        def bytes = File.binread(path)
      end

      # @api private
      def self.inside! = @inside = true

      # @return [Crew] of this process
      def self.crew
        LOCK.synchronize { (@crew if @crew&.pid == Process.pid) || (@crew = Crew.new) }
      end

      LOCK = Mutex.new
      private_constant :LOCK
    end
  end
end
