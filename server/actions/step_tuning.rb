# frozen_string_literal: true

module Fobrel
  module Actions
    # Goes a step back or forth in what a person tuned.
    class StepTuning < Action
      WAYS = {"back" => -1, "forth" => 1}.freeze
      NONE = {"back" => "Nothing to undo.", "forth" => "Nothing to redo."}.freeze
      private_constant :NONE

      # @param way [String] a key of WAYS
      def initialize(preset:, person:, way:)
        @preset = preset
        @person = person
        @way = way
      end

      # @return [KeepDraft::Kept]
      # @raise [Core::Problem] where there is no such step
      def call
        tuning = Models::Tuning.of(@preset, @person)
        tuning.note(@preset.seen_by(@person).value)
        value = tuning.go(WAYS.fetch(@way)) or raise Core::Problem, NONE.fetch(@way)
        KeepDraft.call(preset: @preset, person: @person, value: named(value), step: false)
      end

      private

      # A brush keeps the name it has by now.
      def named(value) = Core::Preset::Preset.restore(value.to_h.merge("name" => @preset.name))
    end
  end
end
