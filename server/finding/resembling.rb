# frozen_string_literal: true

module Fobrel
  module Finding
    # What in a library a brush from elsewhere would replace, or resembles most.
    class Resembling
      # Strips whose hashes differ in more bits than this do not resemble each other.
      BITS = 10
      MOST = 4

      # @param library [Models::Library]
      def initialize(library)
        @library = library
      end

      # @param value [Core::Preset::Preset]
      # @return [Array<Hash>] {id:, name:, version:, fingerprint:, why:, words:}, the likeliest first
      def of(value)
        found = {}
        note(found, by(document_id: value.id), "the same brush")
        note(found, by(fingerprint: value.fingerprint), "paints the same")
        note(found, by(plain_name: Core::Curation::Query.fold(value.name)), "the same name")
        note(found, alike(value), "looks alike")
        found.values.first(MOST).map { |preset, why| told(preset, why, value) }
      end

      private

      def by(**what) = @library.presets.shown.where(**what).limit(MOST).to_a

      def note(found, presets, why) = presets.each { |preset| found[preset.id] ||= [preset, why] }

      def alike(value)
        Models::KeptStrip.png_of(value, "list")
        version = Core::Stroke::Strip::VERSION
        own = Models::KeptStrip.where(
          fingerprint: value.fingerprint,
          shape: "list",
          version:
        ).pick(:hash64) or return []
        here = @library.presets.shown.joins("JOIN strips s ON s.fingerprint = presets.fingerprint")
          .where("s.shape = 'list' AND s.version = ? AND s.hash64 IS NOT NULL", version)
        apart = Models::Record.sanitize_sql(["bit_count((s.hash64 # ?)::bit(64))", own])
        here.where("#{apart} <= #{BITS}").order(Arel.sql(apart), :name).limit(2).to_a
      rescue Core::Problem
        [] # what cannot be painted looks like nothing else
      end

      def told(preset, why, value)
        current = preset.current_version
        {
          id: preset.id,
          name: preset.name,
          version: current.number,
          fingerprint: current.fingerprint,
          why:,
          words: Core::Preset::Changes.between(current.value, value).words
        }
      end
    end
  end
end
