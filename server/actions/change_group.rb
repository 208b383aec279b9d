# frozen_string_literal: true

module Fobrel
  module Actions
    # Changes a category, a status, a set or an export template. Searches that name it go on finding it.
    class ChangeGroup < Deed
      # @param said [Hash] its columns that change
      def initialize(record:, person:, said:)
        @record = record
        @person = person
        @said = said
      end

      # @return [Models::Record]
      def call
        from = @record.name
        if @said[:query]
          Finding::AutomaticSet.check(@record.library, Core::Curation::Query.automatic(@said[:query]), set: @record)
        end
        changes.watch(@record.class.where(id: @record), @said.keys.map(&:to_s)) { @record.update!(@said) }
        standing = @record.library.brush_sets.where.not(query: nil)
        standing = standing.where.not(id: @record) if @record.is_a?(Models::BrushSet)
        named = Finding::AutomaticSet::NAMED.value?(@record.class)
        changes.watch(standing, %w[query pointers]) { Finding::AutomaticSet.follow(@record, from) } if named
        noun = History::Table.of(@record.class).noun
        write_down(@record.library, @person, noun, words(noun, from), about: [@record]) unless changes.empty?
        @record.reload
      end

      private

      def words(noun, from)
        return "The #{noun} “#{from}” is “#{@record.name}” now" unless from == @record.name
        "The #{noun} “#{from}” changed: #{changes.list.first.after.keys.map { _1.delete_suffix("_id") }.join(", ")}"
      end
    end
  end
end
