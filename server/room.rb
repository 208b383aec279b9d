# frozen_string_literal: true

module Fobrel
  module App
    # How many requests of one kind are under way in this process, so that some are always free for
    # others: who waits for a lock, or writes a long file, must not take them all.
    class Room
      # Requests that a process answers at the same time.
      THREADS = Integer(ENV.fetch("WEB_THREADS", 24))

      # A page asks for six at once, and as many that it has given up may still be there.
      HALF = [THREADS / 2, 1].max
      private_constant :HALF

      # A kind of request: how many at once, and of one person; and what to say when there is no room.
      Kind = Struct.new(:all, :each, :sentence)

      KINDS = {
        any: Kind.new(
          THREADS,
          HALF,
          "You have asked for so much at once that this was not begun. Nothing was changed. Try again in a moment."
        ),
        writing: Kind.new(
          [THREADS - 4, 1].max,
          HALF,
          "So many changes are under way that this one was not begun. Nothing was changed. Try again in a moment."
        ),
        slowed: Kind.new(4, 4, "Too many try to sign in at once."),
        large: Kind.new(
          2,
          1,
          "Something large of yours is being read already. Nothing was changed. Try again in a moment."
        )
      }.freeze

      LOCK = Mutex.new
      private_constant :LOCK

      # @return [Room] of this process
      def self.here = LOCK.synchronize { @here ||= new }

      def initialize
        @lock = Mutex.new
        @under_way = []
      end

      # @param kind [Symbol] a key of KINDS
      # @param who whose request it is
      # @return [Object] what #leave takes
      # @raise [Core::Apart::Busy]
      def enter(kind, who)
        @lock.synchronize do
          same = @under_way.select { _1.first == kind }
          raise Core::Apart::Busy, KINDS[kind].sentence if same.size >= KINDS[kind].all || same.count {
            _1[1] == who
          } >= KINDS[kind].each
          [kind, who, Object.new].tap { @under_way << _1 }
        end
      end

      def leave(entered) = @lock.synchronize { @under_way.delete_if { _1.equal?(entered) } }

      # @return [Hash{Symbol => Integer}] by kind
      def count = @lock.synchronize { @under_way.map(&:first).tally }
    end
  end
end
