# frozen_string_literal: true

module Fobrel
  module Actions
    # Makes a set: of brushes picked by hand, filled by a search, or of what leaves another set.
    class MakeSet < Action
      # @param query [String, nil] the search that fills it
      # @param ids [Array<Integer>, nil] its presets in order
      # @param sections [Hash{Integer => String}, nil]
      # @param from [Models::BrushSet, nil] the set that they leave
      # @param before [Array<Integer>, nil] the order of that one that the person saw
      def initialize(library:, person:, name:, query: nil, ids: nil, sections: nil, from: nil, before: nil)
        @library = library
        @person = person
        @words = {name:, query:}
        @ids = ids
        @sections = sections
        @from = from
        @before = before
      end

      # @return [Models::BrushSet]
      # @raise [Overtaken] when somebody changed the other set meanwhile
      def call
        set = @library.brush_sets.create!(**@words)
        FillSet.call(set:, person: @person, ids: @ids, sections: @sections) if @ids && !set.standing?
        FillSet.call(set: @from, person: @person, ids: @before - @ids, before: @before) if @from
        set
      end
    end
  end
end
