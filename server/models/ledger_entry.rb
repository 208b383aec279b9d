# frozen_string_literal: true

module Fobrel
  module Models
    # Who did what, when, and what its undo needs.
    class LedgerEntry < Record
      belongs_to :library
      belongs_to :person
    end
  end
end
