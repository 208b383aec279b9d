# frozen_string_literal: true

module Fobrel
  module Models
    # Who did what, when, and what its undo needs.
    class LedgerEntry < Record
      # What stands for an undo that was kept for as long as the library's rules say.
      CLOSED = {"closed" => true}.freeze

      belongs_to :library
      belongs_to :person

      # @return [Boolean] whether what its undo needs is still there
      def open? = undo != CLOSED
    end
  end
end
