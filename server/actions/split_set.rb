# frozen_string_literal: true

module Fobrel
  module Actions
    # Takes brushes out of a set into a new one, with their headings.
    class SplitSet < Deed
      # @param name [String] of the new set
      # @param ids [Array<Integer>] presets of the set that leave it, in order
      # @param before [Array<Integer>] the order the person saw
      def initialize(set:, person:, name:, ids:, before:)
        @set = set
        @person = person
        @name = name
        @ids = ids
        @before = before
      end

      # @return [Models::HistoryEntry]
      # @raise [Overtaken] when somebody changed the set meanwhile
      def call
        @set.lock!
        @made = @set.library.brush_sets.create!(name: @name)
        @made.put_in_order(@ids & @set.preset_ids_in_order, @set.section_by_preset.slice(*@ids))
        changes.came(Models::BrushSet.where(id: @made), items: true)
        FillSet.new(set: @set, person: @person, ids: @before - @ids, before: @before).fill(changes)
        write_down(@set.library, @person, "split", "#{brushes(@ids.size)} of “#{@set.name}” moved into “#{@made.name}”")
      end
    end
  end
end
