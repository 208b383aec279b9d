# frozen_string_literal: true

module Fobrel
  module Actions
    # Gives a version a name or a note, or takes them off. What it paints never changes.
    class DescribeVersion < Action
      # @param name [String, nil] empty takes it off; nil leaves it
      # @param note [String, nil] the same
      def initialize(preset:, person:, number:, name: nil, note: nil)
        @preset = preset
        @person = person
        @version = preset.versions.find_by!(number:)
        @name = name&.strip
        @note = note&.strip
      end

      # @return [void]
      def call
        describe
        said = "Version #{@version.number} of “#{@preset.name}” described"
        said += " as “#{@name}”" if @name.present?
        Models::HistoryEntry.write(@preset.library, @person, "describe", said, about: [@preset])
      end

      private

      def describe
        Models::Version.where(id: @version.id).update_all(note: @note[0, 500]) if @note
        return unless @name
        found = Models::VersionName.find_or_initialize_by(version: @version)
        @name.empty? ? (found.destroy! if found.persisted?) : found.update!(name: @name)
      end
    end
  end
end
