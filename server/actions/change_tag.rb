# frozen_string_literal: true

module Fobrel
  module Actions
    # Renames a tag, changes its look and its synonyms. Brushes keep it.
    class ChangeTag < Action
      # @param synonyms [Array<String>]
      def initialize(tag:, name:, colour:, shape:, synonyms:)
        @tag = tag
        @changes = {name:, colour:, shape:}
        @synonyms = synonyms.map(&:strip).reject(&:empty?).uniq(&:downcase)
      end

      # @return [Models::Tag]
      def call
        taken = @tag.library.tags.where.not(id: @tag.id).where("lower(name) IN (?)", [@changes[:name].strip, *@synonyms].map(&:downcase)).pick(:name)
        raise Core::Problem, "“#{taken}” is a tag of its own. Nothing was changed. Merge the two if they mean the same." if taken
        from = @tag.name
        @tag.update!(**@changes)
        ChangeGroup.follow(@tag, from)
        @tag.synonyms.delete_all
        @synonyms.each { @tag.synonyms.create!(library_id: @tag.library_id, name: _1) }
        @tag
      end
    end
  end
end
