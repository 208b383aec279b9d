# frozen_string_literal: true

module Fobrel
  module Actions
    # Makes a set: of brushes picked by hand, or filled by a search.
    class MakeSet < Action
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
        Finding::Standing.check(@library, Core::Curation::Query.standing(@words[:query])) if @words[:query]
        @library.brush_sets.create!(**@words).tap { |set|
          FillSet.call(set:, person: @person, ids: @ids, sections: @sections) if @ids && !set.standing?
        }
      end
    end
  end
end
