# frozen_string_literal: true

module Fobrel
  module Models
    # A point to go back to, as somebody set it; earlier ones stay in the history.
    class Baseline < Record
      belongs_to :preset
      belongs_to :version
      belongs_to :person
    end
  end
end
