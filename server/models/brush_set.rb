# frozen_string_literal: true

module Fobrel
  module Models
    # A set: presets picked by hand, in order.
    class BrushSet < Record
      include Ordered

      belongs_to :library
      has_many :items, class_name: "Fobrel::Models::SetItem", dependent: :delete_all
      normalizes :name, with: -> { _1.strip }
      validates :name, length: {in: 1..100}
    end
  end
end
