# frozen_string_literal: true

module Fobrel
  module Core
    # A least-recently-used cache: keeps the results used last, by key, up to a weight. Safe between threads.
    class LruCache
      # @param most [Integer] the weight that is kept at the most
      # @param weight [Proc] from a value to its weight; left out, each counts one
      def initialize(most, &weight)
        @most = most
        @weight = weight || ->(_) { 1 }
        @kept = {}
        @sum = 0
        @lock = Mutex.new
      end

      # @yield to make the value where it is not kept; nothing is kept when that raises
      def fetch(key)
        found = @lock.synchronize { @kept.key?(key) && (@kept[key] = @kept.delete(key)) }
        return found if found
        value = yield
        @lock.synchronize { keep(key, value) }
        value
      end

      # @return what is kept, or nil
      def [](key) = @lock.synchronize { @kept.key?(key) ? (@kept[key] = @kept.delete(key)) : nil }

      # Whether it is kept now; another thread may push it out in the next moment.
      def key?(key) = @lock.synchronize { @kept.key?(key) }

      private

      def keep(key, value)
        return if @kept.key?(key)
        @kept[key] = value
        @sum += @weight.call(value)
        @sum -= @weight.call(@kept.shift.last) while @sum > @most && @kept.size > 1
      end
    end
  end
end
