# frozen_string_literal: true

module Fobrel
  module Actions
    # Locks a brush, so that only a lead saves its next edition; others save as new. Or unlocks it.
    class LockPreset < Action
      # @param locked [Boolean]
      def initialize(preset:, person:, locked:)
        @preset = preset
        @person = person
        @locked = locked
      end

      # @return [Models::LedgerEntry]
      def call
        before = @preset.locked_by_id
        @preset.update!(locked_by: @locked ? @person : nil)
        write_down(
          @preset.library,
          @person,
          "lock",
          "“#{@preset.name}” #{@locked ? "locked" : "unlocked"}",
          {"preset" => @preset.id, "before" => before, "after" => @preset.locked_by_id}
        )
      end
    end
  end
end
