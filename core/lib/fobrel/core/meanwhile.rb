# frozen_string_literal: true

module Fobrel
  module Core
    # What holds for this thread while a block runs, and is as before after it.
    module Meanwhile
      # @param name [Symbol]
      # @yield meanwhile, .[] gives the value
      def self.set(name, value)
        before = Thread.current[name]
        Thread.current[name] = value
        yield
      ensure
        Thread.current[name] = before
      end

      # @param name [Symbol]
      # @return what was set, if anything
      def self.[](name) = Thread.current[name]
    end
  end
end
