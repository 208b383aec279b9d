# frozen_string_literal: true

module Fobrel
  module Models
    # A preset's place in a seat's start plan.
    class StartItem < Record
      belongs_to :seat
      belongs_to :preset
    end
  end
end
