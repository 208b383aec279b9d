# frozen_string_literal: true

module Fobrel
  module Actions
    # Saves a person's change as the preset's next edition, for everybody.
    class SaveEdition < Action
      # @param base [Integer] the number of the edition the change started from
      # @param capture [Array<String>] what of the moment's state is saved along
      def initialize(preset:, person:, value:, base:, note: "", capture: Core::Preset::Capture::ITEMS.keys)
        @preset = preset
        @person = person
        @value = Core::Preset::Capture.only(value, capture)
        @base = base
        @note = note
      end

      # @return [Models::Edition]
      # @raise [Overtaken] when another edition came in between
      def call
        @preset.lock!
        current = @preset.current_edition
        if current.number != @base
          raise Overtaken,
            "#{current.person&.name || "Somebody"} saved edition #{current.number} of “#{@preset.name}” meanwhile. " \
              "Your change is kept as your draft. Bring the two together setting by setting, or save yours as a new " \
              "brush."
        end
        if @value.alike?(current.value)
          raise Core::Problem,
            "Nothing differs from edition #{current.number}, so there is nothing to save."
        end
        edition = AddEdition.call(preset: @preset, value: @value, person: @person, note: @note)
        @preset.drafts.where(person: @person).destroy_all
        edition
      rescue AddEditions::Locked => e
        raise e.but("Nothing was saved; your change is kept as your draft. Save it as a new brush.")
      end
    end
  end
end
