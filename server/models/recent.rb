# frozen_string_literal: true

module Fobrel
  module Models
    # A preset that a person had on the Bench, and when.
    class Recent < Record
      KEPT = 60

      belongs_to :person
      belongs_to :preset
    end
  end
end
