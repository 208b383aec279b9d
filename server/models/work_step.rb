# frozen_string_literal: true

module Fobrel
  module Models
    # A piece of work as it was after one change.
    class WorkStep < Record
      belongs_to :work
    end
  end
end
