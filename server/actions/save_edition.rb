# frozen_string_literal: true

module Fobrel
  module Actions
    # Saves a person's change as the preset's next edition, for everybody.
    class SaveEdition < Action
      # @param base [Integer] the number of the edition the change started from
      def initialize(preset:, person:, value:, base:, note: "")
        @preset = preset
        @person = person
        @value = value
        @base = base
        @note = note
      end

      # @return [Models::Edition]
      # @raise [Overtaken] when another edition came in between
      def call
        @preset.lock!
        current = @preset.current_edition
        if current.number != @base
          raise Overtaken, "#{current.person&.name || "Somebody"} saved edition #{current.number} of “#{@preset.name}” meanwhile. " \
            "Your change is kept as your draft. Save it as a new brush, or go back and start from the new edition."
        end
        raise Core::Problem, "Nothing differs from edition #{current.number}, so there is nothing to save." if @value.alike?(current.value)
        edition = AddEdition.call(preset: @preset, value: @value, person: @person, note: @note)
        @preset.drafts.where(person: @person).destroy_all
        edition
      end
    end
  end
end
