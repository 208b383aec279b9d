# frozen_string_literal: true

module Fobrel
  module Models
    # A preset's place in a desk's start-up plan.
    class StartItem < Record
      belongs_to :desk
      belongs_to :preset
    end
  end
end
