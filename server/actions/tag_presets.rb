# frozen_string_literal: true

module Fobrel
  module Actions
    # Hangs a tag on brushes, or takes it off.
    class TagPresets < Deed
      # @param name [String] of the tag; a new one is made
      # @param on [Boolean] false takes it off
      def initialize(library:, person:, name:, ids:, on: true)
        @library = library
        @person = person
        @name = name
        @ids = ids
        @on = on
      end

      # @return [Models::HistoryEntry]
      def call
        presets = presets_of(@library, @ids)
        tag = @on ? Models::Tag.called(@library, @name, changes:) : Models::Tag.find_called(@library, @name)
        hang(tag, presets.map(&:id).sort) if tag
        write_changes(
          @library,
          @person,
          @on ? "tag" : "untag",
          "#{@on ? "Tagged" : "Took the tag off"} #{@count.to_i} with “#{tag&.name || @name}”"
        )
      end

      private

      def hang(tag, ids)
        tag.lock!("FOR NO KEY UPDATE")
        taggings = tag.taggings.where(preset_id: ids)
        changes.watch(taggings) do
          @count = @on ? tag.taggings.insert_all(ids.map { {preset_id: _1} }).length : taggings.delete_all
        end
      end
    end
  end
end
