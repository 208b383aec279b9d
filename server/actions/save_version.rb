# frozen_string_literal: true

module Fobrel
  module Actions
    # Saves a person's draft as the preset's next version, for everybody. What is saved is what they saw: the draft is
    # named by its fingerprint, and one that became another meanwhile is not saved.
    class SaveVersion < Action
      # @param kept [String] the draft's fingerprint, as the person saw it
      # @param base [Integer] the number of the version it is saved upon
      # @param note [String]
      # @param capture [Array<String>] what of the moment's state is saved along
      # @param choices [Hash{String => String}, nil] where somebody saved meanwhile, whose settings are taken; see
      #   Core::Preset::Merge#preset
      def initialize(
        preset:, person:, kept:, base:, note: "", capture: Core::Preset::Capture::ITEMS.keys, choices: nil
      )
        @preset = preset
        @person = person
        @kept = kept
        @base = base
        @note = note
        @capture = capture
        @choices = choices
      end

      # @return [Models::Version]
      # @raise [Overtaken] when another version came in between
      # @raise [Models::Draft::Another] when the draft is no more what the person saw
      def call
        @preset.lock!
        current = @preset.current_version
        draft = @preset.drafts.find_by(person: @person) or nothing_differs(current)
        upon_another = current.number != @base || (draft.base_version != current && @choices.nil?)
        overtaken(current) if upon_another
        value = Core::Preset::Capture.only(draft.as_seen(@kept, together: @choices), @capture)
        nothing_differs(current) if value.alike?(current.value)
        version = AddVersion.call(preset: @preset, value:, person: @person, note: @note)
        draft.destroy!
        said = [
          "“#{@preset.name}” saved as version #{version.number}",
          @note.presence&.truncate(120)
        ].compact.join(": ")
        Models::HistoryEntry.write(@preset.library, @person, "save", said, about: [@preset])
        version
      rescue AddVersions::Locked => e
        raise e.but("Nothing was saved; your change is kept as your draft. Save it as new brush.")
      end

      private

      def overtaken(current)
        raise Overtaken,
          "#{current.person&.name || "Somebody"} saved version #{current.number} of “#{@preset.name}” in the " \
            "meantime. Your change is kept as your draft. Merge the two setting by setting, or save yours as a new " \
            "brush."
      end

      def nothing_differs(current)
        raise Core::Problem, "Nothing differs from version #{current.number}, so there is nothing to save."
      end
    end
  end
end
