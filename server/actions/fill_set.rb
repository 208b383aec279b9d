# frozen_string_literal: true

module Fobrel
  module Actions
    # Puts a set's brushes in the order given: adds, takes out and moves in one go.
    class FillSet < Action
      # @param ids [Array<Integer>] all presets of the set, in order
      # @param before [Array<Integer>, nil] the order the person saw; nil does not check
      def initialize(set:, person:, ids:, before: nil)
        @set = set
        @person = person
        @ids = ids
        @before = before
      end

      # @return [Models::LedgerEntry]
      # @raise [Overtaken] when somebody changed the set meanwhile
      def call
        @set.lock!
        was = @set.preset_ids_in_order
        raise Overtaken, "Somebody changed “#{@set.name}” meanwhile. Nothing was overwritten. Look at it again and move once more." if @before && @before != was
        ids = presets_of(@set.library, @ids).map(&:id)
        @set.put_in_order(ids)
        write_down(@set.library, @person, "set", summary(was, ids), {"set" => @set.id, "before" => was, "after" => ids})
      end

      private

      def summary(was, ids)
        added = (ids - was).size
        gone = (was - ids).size
        parts = []
        parts << "#{added} added to" if added.positive?
        parts << "#{gone} taken out of" if gone.positive?
        parts << "New order in" if parts.empty?
        "#{parts.join(", ")} “#{@set.name}”"
      end
    end
  end
end
