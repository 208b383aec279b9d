# frozen_string_literal: true

module Fobrel
  module Models
    # A work state that the studio defines, such as "to be checked".
    class Label < Record
      include Looks

      belongs_to :library
      normalizes :name, with: -> { _1.strip }
      validates :name, length: {in: 1..40}
    end
  end
end
