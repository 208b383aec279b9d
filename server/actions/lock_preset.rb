# frozen_string_literal: true

module Fobrel
  module Actions
    # Locks a brush, so that only a lead saves its next edition; others save as new. Or unlocks it.
    class LockPreset < Deed
      # @param locked [Boolean]
      def initialize(preset:, person:, locked:)
        @preset = preset
        @person = person
        @locked = locked
      end

      # @return [Models::LedgerEntry]
      def call
        changes.watch(Models::Preset.where(id: @preset), %w[locked_by_id]) do
          @preset.update!(locked_by: @locked ? @person : nil)
        end
        write_down(@preset.library, @person, "lock", "“#{@preset.name}” #{@locked ? "locked" : "unlocked"}")
      end
    end
  end
end
