# frozen_string_literal: true

require "fiddle"

module Fobrel
  module Core
    module Startup
      # Two names change places in one step, where the system can (Linux: renameat2(2) with RENAME_EXCHANGE).
      module Exchange
        HERE = -100
        EXCHANGE = 2
        private_constant :HERE, :EXCHANGE

        # @param one [String]
        # @param other [String]
        # @return [Boolean] false where the system cannot: nothing was changed then
        def self.call(one, other)
          found = function or return false
          found.call(HERE, one, HERE, other, EXCHANGE).zero?
        end

        def self.function
          return @function if defined?(@function)
          int, text = Fiddle::TYPE_INT, Fiddle::TYPE_VOIDP
          at = Fiddle::Handle::DEFAULT["renameat2"]
          @function = Fiddle::Function.new(at, [int, text, int, text, int], int)
        rescue Fiddle::DLError
          @function = nil
        end
        private_class_method :function
      end
    end
  end
end
