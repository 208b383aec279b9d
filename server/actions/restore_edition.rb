# frozen_string_literal: true

module Fobrel
  module Actions
    # Brings an old edition back as the next one. Nothing in between is lost.
    class RestoreEdition < Deed
      # @param number [Integer] of an edition of this preset
      def initialize(preset:, person:, number:)
        @preset = preset
        @person = person
        @number = number
      end

      # @return [Models::LedgerEntry]
      def call
        @preset.lock!
        old = @preset.editions.find_by!(number: @number)
        if old.value.alike?(@preset.current_edition.value)
          raise Core::Problem, "Version #{@number} is the current version already."
        end
        note = "Version #{@number} restored"
        edition = changes.watch(Models::Preset.where(id: @preset), %w[current_edition_id]) do
          AddEdition.call(preset: @preset, value: old.value, person: @person, note:)
        end
        said = "Version #{@number} of “#{@preset.name}” restored as version #{edition.number}"
        write_down(@preset.library, @person, "restore", said)
      end
    end
  end
end
