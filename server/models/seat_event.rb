# frozen_string_literal: true

module Fobrel
  module Models
    # Something that happened at a seat: a hand-out, a start, another state of its folder.
    class SeatEvent < Record
      belongs_to :seat
      belongs_to :person, optional: true
    end
  end
end
