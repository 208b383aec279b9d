# frozen_string_literal: true

require "fiddle"

module Fobrel
  # Gives memory back to the system that something large has left behind: Ruby keeps what it once had, and so does the C
  # library (glibc's malloc_trim(3); elsewhere nothing happens).
  module Memory
    TRIM = begin
      Fiddle::Function.new(Fiddle::Handle::DEFAULT["malloc_trim"], [Fiddle::TYPE_SIZE_T], Fiddle::TYPE_INT)
    rescue Fiddle::DLError
      nil
    end
    private_constant :TRIM

    # @return [void]
    def self.give_back
      GC.start
      TRIM&.call(0)
    end
  end
end
