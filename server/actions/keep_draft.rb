# frozen_string_literal: true

module Fobrel
  module Actions
    # Keeps a person's change the moment it happens. A change back to the current edition
    # leaves no draft.
    class KeepDraft < Action
      def initialize(preset:, person:, value:)
        @preset = preset
        @person = person
        @value = value
      end

      # @return [Models::Draft, nil]
      def call
        draft = @preset.drafts.find_or_initialize_by(person: @person)
        if @value.alike?(@preset.current_edition.value)
          draft.destroy! if draft.persisted?
          return
        end
        draft.base_edition ||= @preset.current_edition
        draft.update!(document: @value.to_h, fingerprint: @value.fingerprint)
        draft
      end
    end
  end
end
