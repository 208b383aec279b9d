# frozen_string_literal: true

module Fobrel
  module Actions
    # Makes a copy of each brush under its next number, with its tags, category and label.
    class DuplicatePresets < Deed
      def initialize(library:, person:, ids:)
        @library = library
        @person = person
        @ids = ids
      end

      # @return [Models::HistoryEntry]
      def call
        @library.hold
        taken = @library.preset_names
        made = presets_of(@library, @ids).map do |preset|
          name = Core::Curation::Numbering.next_name(preset.name, taken)
          taken << name
          copy(preset, name)
        end
        changes.came(Models::Preset.where(id: made))
        changes.came(Models::Tagging.where(preset: made))
        write_down(@library, @person, "duplicate", "#{brushes(made.size)} duplicated")
      end

      private

      def copy(preset, name)
        value = Core::Preset::Preset[preset.current_version.document.merge("id" => SecureRandom.uuid, "name" => name)]
        made = CreatePreset.call(library: @library, value:, person: @person, note: "A copy of “#{preset.name}”")
        made.update!(category_id: preset.category_id, status_id: preset.status_id)
        tags = preset.taggings.pluck(:tag_id)
        made.taggings.insert_all!(tags.map { {tag_id: _1} }) if tags.any?
        made
      end
    end
  end
end
