# frozen_string_literal: true

module Fobrel
  module Actions
    # Brings an old edition back as the next one. Nothing in between is lost.
    class RestoreEdition < Action
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
        before = @preset.current_edition
        if old.value.alike?(before.value)
          raise Core::Problem,
            "Edition #{@number} is what the brush is now, so there is nothing to bring back."
        end
        edition = AddEdition.call(
          preset: @preset,
          value: old.value,
          person: @person,
          note: "Edition #{@number} brought back"
        )
        write_down(
          @preset.library,
          @person,
          "restore",
          "Edition #{@number} of “#{@preset.name}” brought back as edition #{edition.number}",
          {"drafts" => [], "made" => [], "editions" => [[@preset.id, before.id, edition.id]]}
        )
      end
    end
  end
end
