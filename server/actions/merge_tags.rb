# frozen_string_literal: true

module Fobrel
  module Actions
    # Makes one tag of two. The word that goes becomes a synonym of the one that stays.
    class MergeTags < Action
      # @param from [Models::Tag] goes
      # @param into [Models::Tag] stays
      def initialize(person:, from:, into:)
        @person = person
        @from = from
        @into = into
      end

      # @return [Models::LedgerEntry]
      def call
        raise Core::Problem, "A tag cannot be merged into itself. Nothing was changed." if @from == @into
        had = @from.taggings.pluck(:preset_id)
        fresh = had - @into.taggings.pluck(:preset_id)
        @into.taggings.insert_all!(fresh.map { {preset_id: _1} }) if fresh.any?
        synonyms = @from.synonyms.pluck(:name)
        gone = @from.slice(:id, :name, :colour, :shape).merge("synonyms" => synonyms)
        Models::Tagging.where(tag_id: @from.id).delete_all
        @from.synonyms.delete_all
        @from.destroy!
        [*synonyms, gone["name"]].each { @into.synonyms.create!(library_id: @into.library_id, name: _1) }
        Models::Standing.repoint(@into.library, @from.id, @into.id)
        write_down(
          @into.library,
          @person,
          "merge tags",
          "“#{gone["name"]}” merged into “#{@into.name}”",
          {"gone" => gone, "into" => @into.id, "had" => had, "fresh" => fresh}
        )
      end
    end
  end
end
