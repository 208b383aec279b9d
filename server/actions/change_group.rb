# frozen_string_literal: true

module Fobrel
  module Actions
    # Changes a family, a work state or a set. Searches that name it go on finding it.
    class ChangeGroup < Action
      # @param changes [Hash] of its columns
      def initialize(record:, changes:)
        @record = record
        @changes = changes
      end

      # @return [Models::Record]
      def call
        from = @record.name
        if @changes[:query]
          Finding::Standing.check(
            @record.library,
            Core::Curation::Query.standing(@changes[:query]),
            set: @record
          )
        end
        @record.update!(@changes)
        Finding::Standing.follow(@record, from)
        @record.reload
      end
    end
  end
end
