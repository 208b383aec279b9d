# frozen_string_literal: true

module Fobrel
  module Core
    # Keeps the results used last, by key. Safe between threads.
    class Recent
      # @param most [Integer] how many are kept
      def initialize(most)
        @most = most
        @kept = {}
        @lock = Mutex.new
      end

      # @yield to make the value where it is not kept; nothing is kept when that raises
      def fetch(key)
        found = @lock.synchronize { @kept.key?(key) && (@kept[key] = @kept.delete(key)) }
        return found if found
        value = yield
        @lock.synchronize do
          @kept[key] = value
          @kept.shift while @kept.size > @most
        end
        value
      end
    end
  end
end
