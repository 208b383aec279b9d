# frozen_string_literal: true

module Fobrel
  module Actions
    # Deletes hidden brushes for good. Refused while anything still refers to
    # one of them.
    class DeletePresets < Deed
      def initialize(library:, person:, ids:)
        @library = library
        @person = person
        @ids = ids
      end

      # @return [Models::HistoryEntry]
      def call
        # First, so that nobody brings one back or puts it anywhere between the look and the deed.
        @library.presets.where(id: @ids).order(:id).lock.ids
        presets = presets_of(@library, @ids)
        if presets.any? { _1.hidden_at.nil? }
          raise Core::Problem,
            "Only hidden brushes can be deleted. Nothing was deleted. Hide them first."
        end
        used = uses(presets)
        if used.any?
          raise Core::Problem,
            "Still used: #{used.first(5).join("; ")}. Nothing was deleted. Remove them there first, " \
              "and hide them again."
        end
        names = presets.map(&:name)
        self.class.erase(presets.map(&:id))
        write_down(
          @library,
          @person,
          "destroy",
          "#{brushes(names.size)} deleted permanently: #{names.first(10).join(", ")}#{" …" if names.size > 10}",
          about: presets
        )
      end

      # Takes everything of these presets out of the database.
      #
      # @param ids [Array<Integer>]
      def self.erase(ids)
        versions = Models::Version.where(preset_id: ids)
        [Models::Tagging, Models::Favourite, Models::Recent, Models::Baseline, Models::Tuning].each {
          _1.where(preset_id: ids).delete_all
        }
        Models::VersionName.where(version_id: versions.select(:id)).delete_all
        Models::Preset.where(id: ids).update_all(current_version_id: nil, baseline_version_id: nil)
        Models::Record.connection.execute(
          "DELETE FROM version_needs WHERE version_id IN (#{versions.select(:id).to_sql})"
        )
        versions.delete_all
        Models::Preset.where(id: ids).delete_all
      end

      private

      def uses(presets)
        places = Finding::Uses.keeping(@library, presets.map(&:id))
        presets.filter_map { |preset| "“#{preset.name}” (#{places[preset.id].join(", ")})" if places[preset.id].any? }
      end
    end
  end
end
