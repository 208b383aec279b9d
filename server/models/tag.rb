# frozen_string_literal: true

module Fobrel
  module Models
    # A word hung on presets, with a colour and a shape of its own.
    class Tag < Record
      COLOURS = %w[teal ochre madder violet slate moss].freeze
      SHAPES = %w[square round leaf drop bar ring].freeze

      belongs_to :library
      has_many :taggings
      normalizes :name, with: -> { _1.strip }
      validates :name, length: {in: 1..60}
      validates :colour, inclusion: {in: COLOURS}
      validates :shape, inclusion: {in: SHAPES}

      # Finds a tag by its name, or makes it with the next look in turn.
      def self.called(library, name, colour: nil, shape: nil)
        found = library.tags.find_by("lower(name) = ?", name.strip.downcase)
        return found if found
        turn = library.tags.count
        library.tags.create!(name:, colour: COLOURS.include?(colour) ? colour : COLOURS[turn % COLOURS.size],
          shape: SHAPES.include?(shape) ? shape : SHAPES[turn % SHAPES.size])
      end
    end
  end
end
