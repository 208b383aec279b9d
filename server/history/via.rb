# frozen_string_literal: true

module Fobrel
  module History
    # From where a deed comes: what a thread works for says it once; what works by itself is a job.
    module Via
      # In the order in which they are offered.
      ALL = ["page", "command line", "desk", "job"].freeze

      # @param way [String] one of ALL
      # @yield what is done
      def self.from(way, &) = Core::Meanwhile.set(:fobrel_via, way, &)

      # @return [String]
      def self.now = Core::Meanwhile[:fobrel_via] || "job"
    end
  end
end
