# frozen_string_literal: true

module Fobrel
  module Actions
    # Makes one tag of two. The word that goes becomes a synonym of the one that stays.
    class MergeTags < Deed
      # @param from [Models::Tag] goes
      # @param into [Models::Tag] stays
      def initialize(person:, from:, into:)
        @person = person
        @from = from
        @into = into
      end

      # @return [Models::HistoryEntry]
      def call
        raise Core::Problem, "A tag cannot be merged into itself. Nothing was changed." if @from == @into
        Models::Tag.where(id: [@from, @into]).order(:id).lock.ids
        words = [*@from.synonyms.pluck(:name), @from.name]
        changes.watch(Models::Tagging.where(tag: [@from, @into])) { rehang }
        changes.watch(@from.synonyms) { @from.synonyms.delete_all }
        changes.watch(Models::Tag.where(id: @from)) { @from.destroy! }
        changes.watch(@into.synonyms) do
          words.each { |word| @into.synonyms.create!(library_id: @into.library_id, name: word) }
        end
        pointing = @into.library.brush_sets.where("pointers -> 'tag' IS NOT NULL")
        changes.watch(pointing, %w[query pointers]) { Finding::AutomaticSet.repoint(@into.library, @from.id, @into.id) }
        write_down(@into.library, @person, "merge tags", "“#{@from.name}” merged into “#{@into.name}”")
      end

      private

      def rehang
        ids = @from.taggings.order(:preset_id).pluck(:preset_id)
        @into.taggings.insert_all(ids.map { {preset_id: _1} }) if ids.any?
        Models::Tagging.where(tag: @from).delete_all
      end
    end
  end
end
