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

      # By the name or by a synonym.
      scope :called_or_meant, ->(word) { named(word).or(where(id: TagSynonym.named(word).select(:tag_id))) }

      # Finds a tag by its name or a synonym, or makes it.
      #
      # @param look [Hash, nil] see Looks.of
      # @param changes [History::Changes, nil] of the deed that makes it
      # @return [Tag]
      def self.called(library, name, look: nil, changes: nil)
        find_called(library, name) || make(library, name, look, changes) || find_called(library, name)
      end

      # @return [Tag, nil]
      def self.find_called(library, name)
        word = Core::Names.clean(name)
        library.tags.named(word).first || library.tags.called_or_meant(word).first
      end

      # @return [String] a word that finds no tag yet: this, or with the next free number
      def self.free_word(library_id, word)
        [word].chain((2..).lazy.map { "#{word} #{_1}" }).find do |name|
          [self, TagSynonym].none? { |model| model.where(library_id:).named(name).exists? }
        end
      end

      # Two who make the same tag at once get the same one.
      #
      # @return [Tag, nil] nil where somebody was faster
      def self.make(library, name, look, changes)
        tag = library.tags.new(name:, **Looks.of(look, library.tags.count))
        raise ActiveRecord::RecordInvalid, tag unless tag.valid?
        made = where(id: insert_all([tag.attributes.except("id")], returning: :id).rows.flatten)
        changes&.came(made)
        made.first
      end
      private_class_method :make
    end
  end
end
