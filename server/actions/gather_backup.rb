# frozen_string_literal: true

module Fobrel
  module Actions
    # Says what a library has beside its brushes as they are now, as a backup holds it. What is a
    # person's own (drafts, favourites, sample strokes) and the history are not in it.
    class GatherBackup < Action
      # @param presets [Array<Models::Preset>] all of the library
      def initialize(library:, presets:)
        @library = library
        @presets = presets
        @documents = presets.to_h { [_1.id, _1.document_id] }
      end

      # @return [Core::Package::Backup] whose releases are fetched as they are written
      def call = Core::Package::Backup.new(library: said, histories:, releases:)

      private

      def said
        {
          "format" => Core::Package::Backup::FORMAT,
          "name" => @library.name,
          "canvas" => @library.canvas,
          "categories" => branches.values.sort,
          "statuses" => @library.statuses.order(:position).map {
            _1.slice(:name, :colour, :shape)
          },
          "parts" => parts,
          "brushes" => @presets.to_h { [_1.document_id, facts(_1)] },
          "bundles" => bundles.map { bundle(_1) },
          "plans" => @library.desks.order(:name).map { {"desk" => _1.name, "brushes" => identities(_1)} }
        }
      end

      def branches = @branches ||= Models::Category.paths(@library)

      def facts(preset)
        @statuses ||= @library.statuses.pluck(:id, :name).to_h
        {
          "category" => branches[preset.category_id],
          "status" => @statuses[preset.status_id],
          "hidden" => preset.hidden_at && true,
          "locked" => preset.locked_by_id && true,
          "baseline" => preset.baseline_version&.number
        }.compact
      end

      def histories
        current = @presets.to_h { [_1.id, _1.current_version_id] }
        Models::Version.where(preset_id: @documents.keys).includes(:person, :version_name).order(
          :preset_id,
          :number
        ).group_by(&:preset_id).to_h do |id, versions|
          [@documents[id], versions.map { version(_1, current[id]) }]
        end
      end

      def version(version, current)
        {
          "number" => version.number,
          "at" => time(version.created_at),
          "by" => version.person&.name,
          "note" => version.note.presence,
          "name" => version.version_name&.name,
          "preset" => (version.document unless version.id == current)
        }.compact
      end

      def bundles = @bundles ||= @library.bundles.order(:name).to_a

      def bundle(bundle)
        {
          **bundle.words,
          "cover" => @documents[bundle.cover_id],
          "picture" => picture(bundle),
          "brushes" => identities(bundle),
          "sections" => bundle.section_by_preset.transform_keys {
            @documents.fetch(_1)
          },
          "releases" => bundle.releases.listed.includes(:person).map {
            release(_1)
          }
        }.compact
      end

      # So many bytes of pictures that no brush needs stand in the description itself.
      PICTURES = 24 * 1024 * 1024
      private_constant :PICTURES

      # What lies on the library's own shelf; a person's own is not in a backup.
      def parts
        here = @library.parts.shown.where(person_id: nil).order(:name, :sha256)
        needed = @library.pictures_needed(here.pluck(:sha256)).to_set
        left = PICTURES
        here.map do |part|
          picture = needed.include?(part.sha256) ? nil : Models::Asset::Bytes.fetch(part.sha256) { nil }
          left -= picture.bytesize if picture
          {
            **part.slice("name", "kind", "tags", "sha256", "made"),
            "picture" => (picture && left >= 0) ? [picture].pack("m0") : nil
          }.compact
        end
      end

      # Small enough to stand in the description itself.
      def picture(bundle) = bundle.picture && [Models::Asset::Bytes.fetch(bundle.picture) { "" }].pack("m0")

      def release(release)
        withdrawn = release.withdrawn_at && {"at" => time(release.withdrawn_at), "reason" => release.withdrawn_reason}
        {
          "number" => release.number,
          "sha256" => release.sha256,
          "at" => time(release.created_at),
          "by" => release.person.name,
          "notes" => release.notes,
          "items" => release.items,
          "words" => release.words,
          "withdrawn" => withdrawn
        }.compact
      end

      def releases
        Models::Release.where(bundle: bundles).pluck(
          :sha256,
          :id,
          Arel.sql("octet_length(package)")
        ).to_h { |sum, id, size|
          [sum, Models::Release::Packed.new(id, size)]
        }
      end

      def identities(holder) = holder.preset_ids_in_order.map { @documents.fetch(_1) }

      def time(moment) = moment.utc.iso8601(6)
    end
  end
end
