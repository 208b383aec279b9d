# frozen_string_literal: true

module Fobrel
  module Actions
    # Freezes a bundle as its next release, if the preflight finds nothing that stops it.
    class ReleaseBundle < Deed
      # @param number [String] at least the one that the changes ask for
      # @param notes [String]
      def initialize(bundle:, person:, number: nil, notes: "")
        @bundle = bundle
        @person = person
        @number = number
        @notes = notes
      end

      # What changed since the last release.
      #
      # @return [Core::Curation::ReleaseNumber]
      def since_last
        last = @bundle.last_release
        words = last && (last.words != @bundle.words || places(last.items) != places(frozen))
        Core::Curation::ReleaseNumber.new(
          last ? last.brushes : [],
          frozen.map {
            Core::Curation::ReleaseNumber::Brush.new(_1["id"], _1["name"], _1["fingerprint"])
          },
          words: words || false
        )
      end

      # @return [Array<Core::Curation::Preflight::Finding>]
      def findings
        drafts = Models::Draft.where(preset: presets).includes(:person).group_by(&:preset_id)
        received = Models::Version.where(preset: presets).order(
          :preset_id,
          :number
        ).select("DISTINCT ON (preset_id) *").index_by(&:preset_id)
        entries = presets.map do |preset|
          first = received.fetch(preset.id)
          Core::Curation::Preflight::Entry.new(
            key: preset.id,
            preset: preset.current_version.value,
            hidden: !preset.hidden_at.nil?,
            locked: !preset.locked_by_id.nil?,
            drafts_of: drafts.fetch(preset.id, []).map {
              _1.person.name
            },
            stock: stock?(preset, first)
          )
        end
        Core::Curation::Preflight.new(
          entries,
          assets: Models::Asset::Bytes,
          canvas: @bundle.library.canvas.values,
          licence: @bundle.licence
        ).findings
      end

      # Whether a brush is what was received, unchanged.
      def stock?(preset, first)
        return false unless preset.origin == "received"
        preset.current_version_id == first.id || preset.current_version.value.alike?(first.value)
      end

      # Paints and writes the package first, then freezes it: only the second holds the bundle.
      #
      # @return [Models::Release]
      # @raise [Core::Problem] naming what stops it
      # @raise [Overtaken] where the bundle became another while the package was written
      def self.call(...)
        action = new(...)
        action.write
        Models::Record.transaction(requires_new: true) { action.call }
      end

      # @return [Boolean] whether one would wait too long for it
      def long? = Models::Export.long?("package", presets.map(&:fingerprint))

      # @return [void]
      # @raise [Core::Problem]
      def write
        refuse_stopped
        last = @bundle.releases.last&.number
        @number = @number.to_s.strip.empty? ? since_last.next(last) : @number.strip
        if @bundle.last_release && since_last.level.nil?
          raise Core::Problem, "No changes since release #{last}, so there is nothing to release."
        end
        since_last.check(@number, last)
        paint
        @package = package
        @written = state
      end

      # @return [Models::Release]
      def call
        @bundle.lock!
        @presets = @frozen = nil
        if state != @written
          raise Overtaken,
            "“#{@bundle.name}” was changed while its release was being written. Nothing was released. Look at it " \
              "once more."
        end
        release = @bundle.releases.create!(
          number: @number,
          notes: @notes,
          items: frozen,
          words: @bundle.words,
          package: @package,
          sha256: Core::Sum.of(@package),
          person: @person
        )
        write_down(
          @bundle.library,
          @person,
          "release",
          "“#{@bundle.name}” #{@number} released with #{brushes(presets.size)}",
          about: [release, @bundle, *presets]
        )
        tell(release)
        release
      end

      private

      def refuse_stopped
        stops = findings.select(&:stops)
        return if stops.empty?
        said = stops.first(3).map(&:sentence).join(" ")
        more = " (and #{stops.size - 3} more)" if stops.size > 3
        raise Core::Problem, "This cannot be released yet: #{said}#{more} Nothing was released."
      end

      # Each strip has its own time, whatever the others took.
      def paint
        presets.each_with_index do |preset, index|
          Models::KeptStrip.png_for(preset.fingerprint, "list") { preset.current_version.value }
          tell_of(index + 1, presets.size)
        rescue Core::Problem => e
          raise Core::Problem, "“#{preset.name}” cannot be painted: #{e.message} Nothing was released."
        end
      end

      # What must be the same when it is frozen as when it was written.
      def state
        [
          @bundle.releases.maximum(:id),
          @bundle.words,
          frozen,
          Models::Preset.where(id: presets.map(&:id)).order(:id).pluck(:id, :hidden_at)
        ]
      end

      # @return [String] the bytes that are frozen
      def package
        ExportPackage.new(
          library: @bundle.library,
          person: @person,
          ids: presets.map(&:id),
          name: @bundle.name,
          version: @number,
          licence: @bundle.licence,
          description: @bundle.description,
          author: @bundle.author,
          sets: sections
        ).call
      end

      # Whoever leads a library that follows it, unless it stays where it is.
      def tell(release)
        Models::Follow.current.where(bundle: @bundle).includes(:library).each do |follow|
          follow.tell_leads(
            "“#{@bundle.name}” #{release.number} is out; “#{follow.library.name}” follows it" \
              "#{": #{release.notes}" if release.notes.present?}"
          )
          Models::Live.tell(what: "library", library: follow.library_id)
        end
      end

      # Which brushes stand in which order under which heading.
      def places(items) = items.map { _1.values_at("id", "section") }

      def presets = @presets ||= @bundle.presets_in_order

      def frozen
        @frozen ||= begin
          sections = @bundle.section_by_preset
          numbers = Models::Version.where(id: presets.map(&:current_version_id)).pluck(:id, :number).to_h
          presets.map {
            {
              "id" => _1.document_id,
              "name" => _1.name,
              "fingerprint" => _1.fingerprint,
              "version" => numbers[_1.current_version_id],
              "section" => sections[_1.id]
            }
          }
        end
      end

      # A bundle's sections travel as sets of the package.
      def sections
        frozen.select {
          _1["section"]
        }.group_by { _1["section"] }.map { |name, rows|
          Core::Package::Bundle::Group.new(
            name:,
            presets: rows.map { |row|
              row["id"]
            }
          )
        }
      end
    end
  end
end
