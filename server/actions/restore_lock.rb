# frozen_string_literal: true

module Fobrel
  module Actions
    # Brings a library's brushes back to what a lock file says, as far as their versions are here.
    class RestoreLock < Deed
      # @param lock [String] the file
      # @param only_say [Boolean] nothing is changed
      def initialize(library:, person:, lock:, only_say: false)
        @library = library
        @person = person
        @lock = lock
        @only_say = only_say
      end

      # What differs (Core::Package::LockFile::Difference each), how many came back, and the history's line.
      Restored = Struct.new(:differences, :back, :entry, keyword_init: true)

      # @return [Restored]
      def call
        differences = differences_now
        return Restored.new(differences:, back: 0, entry: nil) if @only_say
        back = differences.filter_map { |one| point_back(one) if one.kind != "more" }
        entry = restore(back) if back.any?
        Restored.new(differences: differences_now, back: back.size, entry:)
      end

      private

      # A file may become many times as large in memory as it is: it is read apart.
      def differences_now
        @at, differences = Core::Apart.call(Core::Package::LockFile, :compare, @lock, here)
        differences
      end

      def here
        @library.presets.shown.pluck(:document_id, :name, :fingerprint).to_h { |id, name, print| [id, [name, print]] }
      end

      # The version of that time, whether its brush is hidden or not.
      def point_back(difference)
        preset = @library.presets.find_by(document_id: difference.id) or return
        version = preset.versions.where(fingerprint: difference.locked).last or return
        [preset, version]
      end

      def restore(pairs)
        presets = pairs.map(&:first)
        check_rights(@library, @person, presets)
        found = Models::Preset.where(id: presets)
        changes.watch(found, %w[current_version_id hidden_at hidden_by_id]) do
          found.restore
          again = pairs.reject { |preset, version| preset.current_version_id == version.id }
          items = again.map { |preset, version|
            AddVersions::Item.new(preset, version.value, "As in the lock file of #{@at}")
          }
          AddVersions.call(items:, person: @person)
        end
        write_down(@library, @person, "lock file", "#{brushes(pairs.size)} restored to the lock file")
      end
    end
  end
end
