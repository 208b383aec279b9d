# frozen_string_literal: true

module Fobrel
  module Models
    # The name of an important edition; the edition itself never changes.
    class EditionName < Record
      belongs_to :edition
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, length: {in: 1..60}
    end
  end
end
