# frozen_string_literal: true

module Fobrel
  module Actions
    # What a library stands on now, as a lock file.
    class WriteLock < Action
      def initialize(library:)
        @library = library
      end

      # @return [Core::Package::LockFile]
      def call
        Core::Package::LockFile.build(library: @library.name, follows:, brushes:, at: Time.current)
      end

      private

      def follows
        @library.follows.where.not(release_id: nil).includes(bundle: :library).map { |one|
          release = Models::Release.listed.find(one.release_id)
          {
            "library" => one.bundle.library.name,
            "bundle" => one.bundle.name,
            "release" => release.number,
            "sha256" => release.sha256
          }
        }
      end

      def brushes
        @library.presets.shown.joins(:current_version)
          .pluck(:document_id, "presets.name", "versions.number", "versions.fingerprint")
          .map { |id, name, number, print|
            {"id" => id, "name" => name, "version" => number, "fingerprint" => print}
          }
      end
    end
  end
end
