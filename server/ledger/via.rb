# frozen_string_literal: true

module Fobrel
  module Ledger
    # From where a deed comes: what a thread works for says it once; what works by itself is a job.
    module Via
      # In the order in which they are offered.
      ALL = ["page", "command line", "seat", "job"].freeze

      # @param way [String] one of ALL
      # @yield what is done
      def self.from(way)
        before = Thread.current[:fobrel_via]
        Thread.current[:fobrel_via] = way
        yield
      ensure
        Thread.current[:fobrel_via] = before
      end

      # @return [String]
      def self.now = Thread.current[:fobrel_via] || "job"
    end
  end
end
