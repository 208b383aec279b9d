# frozen_string_literal: true

module Fobrel
  module Actions
    # Renames a tag, changes its look and its synonyms. Brushes keep it.
    class ChangeTag < Action
      # @param synonyms [Array<String>]
      def initialize(tag:, name:, colour:, shape:, synonyms:)
        @tag = tag
        @changes = {name: Core::Names.clean(name), colour:, shape:}
        @synonyms = synonyms.map { Core::Names.clean(_1) }.reject(&:empty?).uniq(&:downcase)
      end

      # @return [Models::Tag]
      def call
        refuse_taken
        from = @tag.name
        @tag.update!(**@changes)
        Finding::Standing.follow(@tag, from)
        @tag.synonyms.delete_all
        @synonyms.each { @tag.synonyms.create!(library_id: @tag.library_id, name: _1) }
        @tag
      end

      private

      # A word finds one tag: it is either its name or one of its synonyms.
      def refuse_taken
        words = [@changes[:name], *@synonyms]
        others = @tag.library.tags.where.not(id: @tag.id)
        taken = others.named(words).pick(:name)
        if taken
          raise Core::Problem,
            "“#{taken}” is a tag of its own. Nothing was changed. Merge the two if they mean the same."
        end
        word, owner = others.joins(:synonyms).merge(Models::TagSynonym.named(words)).pick("tag_synonyms.name", :name)
        if word
          raise Core::Problem,
            "“#{word}” is a synonym of “#{owner}” already. Nothing was changed. Take it off there first, or merge " \
              "the two."
        end
      end
    end
  end
end
