# frozen_string_literal: true

module Fobrel
  module Actions
    # Saves a person's change as a new brush under the next number; the one it came from stays
    # as it is.
    class SaveVariation < Action
      def initialize(preset:, person:, value:)
        @preset = preset
        @person = person
        @value = value
      end

      # @return [Models::Preset]
      def call
        library = @preset.library
        library.lock!
        name = Core::Curation::Numbering.next_name(@value.name, library.preset_names)
        value = Core::Preset::Preset[@value.to_h.merge("id" => SecureRandom.uuid, "name" => name)]
        made = CreatePreset.call(library:, value:, person: @person, note: "A variation of “#{@preset.name}”")
        @preset.taggings.pluck(:tag_id).each { made.taggings.create!(tag_id: _1) }
        @preset.drafts.where(person: @person).destroy_all
        made
      end
    end
  end
end
