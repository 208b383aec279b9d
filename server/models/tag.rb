# frozen_string_literal: true

module Fobrel
  module Models
    # A word hung on presets, with a colour and a shape of its own.
    class Tag < Record
      include Looks

      belongs_to :library
      has_many :taggings
      has_many :synonyms, class_name: "Fobrel::Models::TagSynonym", dependent: :delete_all
      normalizes :name, with: -> { _1.strip }
      validates :name, length: {in: 1..60}

      # Finds a tag by its name or a synonym, or makes it with the next look in turn.
      def self.called(library, name, colour: nil, shape: nil)
        word = name.strip.downcase
        found = library.tags.find_by("lower(name) = ?", word) || library.tags.joins(:synonyms).find_by("lower(tag_synonyms.name) = ?", word)
        return found if found
        look = Looks.next(library.tags.count)
        library.tags.create!(name:, colour: Looks::COLOURS.include?(colour) ? colour : look[:colour], shape: Looks::SHAPES.include?(shape) ? shape : look[:shape])
      end
    end
  end
end
