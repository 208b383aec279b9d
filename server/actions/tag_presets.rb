# frozen_string_literal: true

module Fobrel
  module Actions
    # Hangs a tag on brushes, or takes it off.
    class TagPresets < Action
      # @param name [String] of the tag; a new one is made
      # @param on [Boolean] false takes it off
      def initialize(library:, person:, name:, ids:, on: true)
        @library = library
        @person = person
        @name = name
        @ids = ids
        @on = on
      end

      # @return [Models::LedgerEntry]
      def call
        presets = presets_of(@library, @ids)
        tag = Models::Tag.called(@library, @name)
        hung = tag.taggings.where(preset: presets).pluck(:preset_id)
        changed = @on ? presets.map(&:id) - hung : hung
        if !@on then tag.taggings.where(preset_id: changed).delete_all
        elsif changed.any? then tag.taggings.insert_all!(changed.map { {preset_id: _1} })
        end
        write_down(
          @library,
          @person,
          @on ? "tag" : "untag",
          "#{@on ? "Tagged" : "Took the tag off"} #{changed.size} with “#{tag.name}”",
          {"tag" => tag.id, "presets" => changed}
        )
      end
    end
  end
end
