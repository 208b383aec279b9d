# frozen_string_literal: true

module Fobrel
  module Actions
    # Makes a set: of brushes picked by hand, or filled by a search.
    class MakeSet < Deed
      # @param query [String, nil] the search that fills it
      # @param ids [Array<Integer>, nil] its presets in order
      # @param sections [Hash{Integer => String}, nil]
      def initialize(library:, person:, name:, query: nil, ids: nil, sections: nil)
        @library = library
        @person = person
        @words = {name:, query:}
        @ids = ids
        @sections = sections
      end

      # @return [Models::BrushSet]
      def call
        Finding::AutomaticSet.check(@library, Core::Curation::Query.automatic(@words[:query])) if @words[:query]
        set = @library.brush_sets.create!(**@words)
        ids = (@ids && !set.automatic?) ? presets_of(@library, @ids).map(&:id) : []
        set.put_in_order(ids, @sections || {}) if ids.any?
        changes.came(Models::BrushSet.where(id: set), items: ids.any?)
        with = " with #{brushes(ids.size)}" if ids.any?
        with ||= ", filled by “#{set.query}”" if set.automatic?
        write_down(@library, @person, "set", "The set “#{set.name}” made#{with}")
        set
      end
    end
  end
end
