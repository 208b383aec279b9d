# frozen_string_literal: true

module Fobrel
  module Actions
    # Brings an old version back as the next one. Nothing in between is lost.
    class RestoreVersion < Deed
      # @param number [Integer] of a version of this preset
      def initialize(preset:, person:, number:)
        @preset = preset
        @person = person
        @number = number
      end

      # @return [Models::HistoryEntry]
      def call
        @preset.lock!
        old = @preset.versions.find_by!(number: @number)
        if old.value.alike?(@preset.current_version.value)
          raise Core::Problem, "Version #{@number} is the current version already."
        end
        note = "Version #{@number} restored"
        version = changes.watch(Models::Preset.where(id: @preset), %w[current_version_id]) do
          AddVersion.call(preset: @preset, value: old.value, person: @person, note:)
        end
        said = "Version #{@number} of “#{@preset.name}” restored as version #{version.number}"
        write_down(@preset.library, @person, "restore", said)
      end
    end
  end
end
