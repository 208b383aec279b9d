# frozen_string_literal: true

module Fobrel
  module Actions
    # Locks a brush, so that only a lead saves its next version; others save as new. Or unlocks it.
    class LockPreset < Deed
      # @param locked [Boolean]
      def initialize(preset:, person:, locked:)
        @preset = preset
        @person = person
        @locked = locked
      end

      # @return [Models::HistoryEntry]
      def call
        opened = @preset.locked_by unless @locked
        changes.watch(Models::Preset.where(id: @preset), %w[locked_by_id]) do
          @preset.update!(locked_by: @locked ? @person : nil)
        end
        tell(opened) if opened
        write_down(@preset.library, @person, "lock", "“#{@preset.name}” #{@locked ? "locked" : "unlocked"}")
      end

      private

      def tell(person)
        Models::Notice.tell(
          [person],
          library: @preset.library,
          kind: "lock",
          except: @person,
          path: "/bench/#{@preset.id}",
          text: "#{@person.name} opened your lock on “#{@preset.name}”"
        )
      end
    end
  end
end
