# frozen_string_literal: true

module Fobrel
  module Actions
    # Puts a set's brushes in the order given: adds, takes out and moves in one go. Those in the
    # Hidden, which nobody sees there, keep their places.
    class FillSet < Deed
      # @param ids [Array<Integer>] all presets of the set that are shown, in order
      # @param before [Array<Integer>, nil] the order the person saw; nil does not check
      # @param sections [Hash{Integer => String}, nil] nil leaves each preset in its own
      def initialize(set:, person:, ids:, before: nil, sections: nil)
        if set.automatic?
          raise Core::Problem,
            "“#{set.name}” fills itself from a search. Nothing was changed. Change its search, or copy it to a set " \
              "of its own."
        end
        @set = set
        @person = person
        @ids = ids
        @before = before
        @sections = sections
      end

      # @return [Models::HistoryEntry]
      # @raise [Overtaken] when somebody changed the set meanwhile
      def call
        fill(changes)
        write_down(@set.library, @person, "set", reordered(@set.name, @was, @set.preset_ids_in_order))
      end

      # The same within another deed.
      #
      # @param changes [History::Changes] of that deed
      # @raise [Overtaken]
      def fill(changes)
        @set.lock!
        @was = was = @set.preset_ids_in_order
        hidden = @set.library.presets.where(id: was - @ids).where.not(hidden_at: nil).ids
        if @before && @before != was - hidden
          raise Overtaken,
            "Somebody changed “#{@set.name}” meanwhile. Nothing was overwritten. Look at it again and move once more."
        end
        ids = with_hidden(presets_of(@set.library, @ids).map(&:id), was, hidden)
        kept = @set.section_by_preset
        changes.watch_order(@set) do
          @set.put_in_order(ids, @sections ? @sections.merge(kept.slice(*hidden)) : kept)
        end
      end

      private

      # Each hidden one after what it stood behind.
      def with_hidden(ids, was, hidden)
        (was & hidden).each do |id|
          before = was.take(was.index(id)).reverse.find { ids.include?(_1) }
          ids.insert(before ? ids.index(before) + 1 : 0, id)
        end
        ids
      end
    end
  end
end
