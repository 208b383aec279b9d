# frozen_string_literal: true

module Fobrel
  module Models
    # A word hung on presets, with a colour and a shape of its own.
    class Tag < Record
      include Looks

      belongs_to :library
      has_many :taggings
      has_many :synonyms, class_name: "Fobrel::Models::TagSynonym", dependent: :delete_all
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, length: {in: 1..60}

      # Finds a tag by its name or a synonym, or makes it (it is then a `previously_new_record?`).
      #
      # @param look [Hash, nil] see Looks.of
      def self.called(library, name, look: nil)
        word = Core::Names.clean(name).downcase
        library.tags.find_by(
          "lower(name) = ?",
          word
        ) || library.tags.joins(:synonyms).find_by("lower(tag_synonyms.name) = ?", word) ||
          library.tags.create!(name:, **Looks.of(look, library.tags.count))
      end
    end
  end
end
