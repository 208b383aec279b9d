# frozen_string_literal: true

module Fobrel
  module Actions
    # Sets the version that a reset goes back to. Earlier baselines stay in the history.
    class SetBaseline < Deed
      # @param number [Integer] of a version of this preset
      def initialize(preset:, person:, number:)
        @preset = preset
        @person = person
        @number = number
      end

      # @return [Models::HistoryEntry]
      def call
        @preset.lock!
        check_rights(@preset.library, @person, [@preset])
        version = @preset.versions.find_by!(number: @number)
        raise Core::Problem, "Version #{@number} is already the baseline." if @preset.baseline_version == version
        changes.watch(Models::Preset.where(id: @preset), %w[baseline_version_id]) {
          @preset.update!(baseline_version: version)
        }
        Models::Preset.settle([@preset.id])
        @preset.baselines.create!(version:, person: @person)
        write_down(@preset.library, @person, "baseline", "Version #{@number} is now the baseline of “#{@preset.name}”")
      end
    end
  end
end
