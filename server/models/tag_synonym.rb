# frozen_string_literal: true

module Fobrel
  module Models
    # Another word that finds a tag.
    class TagSynonym < Record
      belongs_to :tag
      belongs_to :library
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, length: {in: 1..60}
    end
  end
end
