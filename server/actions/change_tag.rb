# frozen_string_literal: true

module Fobrel
  module Actions
    # Renames a tag, changes its look and its synonyms. Brushes keep it.
    class ChangeTag < Deed
      # @param synonyms [Array<String>]
      def initialize(tag:, person:, name:, colour:, shape:, synonyms:)
        @tag = tag
        @person = person
        @said = {name: Core::Names.clean(name), colour:, shape:}
        @synonyms = synonyms.map { Core::Names.clean(_1) }.reject(&:empty?).uniq(&:downcase)
      end

      # @return [Models::Tag]
      def call
        refuse_taken
        from = @tag.name
        changes.watch(Models::Tag.where(id: @tag), %w[name colour shape]) { @tag.update!(**@said) }
        changes.watch(@tag.library.brush_sets.where.not(query: nil), %w[query pointers]) {
          Finding::AutomaticSet.follow(@tag, from)
        }
        synonyms
        write_down(@tag.library, @person, "tag", said(from), about: [@tag]) unless changes.empty?
        @tag
      end

      private

      # Those that stay are left as they are.
      def synonyms
        changes.watch(Models::TagSynonym.where(tag_id: @tag)) do
          there = @tag.synonyms.to_a
          there.reject { @synonyms.include?(_1.name) }.each(&:destroy!)
          (@synonyms - there.map(&:name)).each { @tag.synonyms.create!(library_id: @tag.library_id, name: _1) }
        end
        @tag.synonyms.reset
      end

      def said(from)
        return "The tag “#{from}” is “#{@tag.name}” now" unless from == @tag.name
        columns = changes.list.select { _1.table == "tags" }.flat_map { _1.after.to_h.keys }
        "#{columns.any? ? "The look" : "The synonyms"} of the tag “#{from}” changed"
      end

      # A word finds one tag: it is either its name or one of its synonyms.
      def refuse_taken
        words = [@said[:name], *@synonyms]
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
