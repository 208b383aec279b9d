# frozen_string_literal: true

module Fobrel
  module Models
    # A preset's place in a set.
    class SetItem < Record
      belongs_to :brush_set
      belongs_to :preset
    end
  end
end
