# frozen_string_literal: true

module Fobrel
  module Actions
    # Takes a brush into a library: its first edition is its home.
    class CreatePreset < Action
      # @param value [Core::Preset::Preset] its id must be new to the library
      # @param edition [Integer] the number its first edition here carries
      # @param origin [String] "made" here, or "received"
      def initialize(library:, value:, person:, note: "", edition: 1, origin: "made")
        @library = library
        @value = value
        @person = person
        @note = note
        @edition = edition
        @origin = origin
      end

      # @return [Models::Preset]
      def call
        preset = @library.presets.create!(document_id: @value.id, name: @value.name, origin: @origin)
        edition = AddEdition.call(preset:, value: @value, person: @person, note: @note, number: @edition)
        preset.update!(home_edition: edition, altered: false)
        preset
      end
    end
  end
end
