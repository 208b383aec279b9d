# frozen_string_literal: true

module Fobrel
  module Models
    # How alike the strips of two fingerprints are, from 0 to 1.
    class StripPair < Record
      self.table_name = "likenesses"
    end
  end
end
