# frozen_string_literal: true

module Fobrel
  module Actions
    # Takes a brush into a library: its first version is its baseline.
    class CreatePreset < Action
      # @param value [Core::Preset::Preset] its id must be new to the library
      # @param version [Integer] the number its first version here carries
      # @param origin [String] "made" here, or "received"
      def initialize(library:, value:, person:, note: "", version: 1, origin: "made")
        @library = library
        @value = value
        @person = person
        @note = note
        @version = version
        @origin = origin
      end

      # @return [Models::Preset]
      def call
        preset = @library.presets.create!(document_id: @value.id, name: @value.name, origin: @origin)
        version = AddVersion.call(preset:, value: @value, person: @person, note: @note, number: @version)
        preset.update!(baseline_version: version, altered: false)
        preset
      end
    end
  end
end
