# frozen_string_literal: true

module Fobrel
  module Models
    # A preset that one person wants at hand.
    class Favourite < Record
      belongs_to :person
      belongs_to :preset
    end
  end
end
