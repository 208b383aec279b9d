# frozen_string_literal: true

module Fobrel
  module Actions
    # Changes a family, a work state or a set. Searches that name it go on finding it.
    class ChangeGroup < Action
      # What a search calls each.
      TERMS = {Models::Family => %w[family], Models::Label => %w[label], Models::Tag => %w[tag], Models::BrushSet => ["set", "used in"]}.freeze

      # Lets the searches that fill sets follow a new name.
      #
      # @param record [Models::Record] of TERMS, renamed
      # @param from [String] its old name
      def self.follow(record, from)
        return if record.name == from
        record.library.brush_sets.where.not(query: nil).find_each do |set|
          query = Core::Curation::Query.parse(set.query)
          now = query.renamed(TERMS.fetch(record.class), from, record.name)
          set.update!(query: now.to_s) unless now.to_s == query.to_s
        end
      end

      # @param changes [Hash] of its columns
      def initialize(record:, changes:)
        @record = record
        @changes = changes
      end

      # @return [Models::Record]
      def call
        from = @record.name
        @record.update!(@changes)
        self.class.follow(@record, from)
        @record.reload
      end
    end
  end
end
