# frozen_string_literal: true

module Fobrel
  module Models
    # The painted preview of a preset's content, computed once.
    class KeptStrip < Record
      self.table_name = "strips"

      # Where a person may see such a brush: a version in their libraries, or their draft.
      #
      # @param memberships [ActiveRecord::Relation<Membership>] of that person, as far as they reach here
      # @return [Array<ActiveRecord::Relation>] of what has a document
      def self.sources(person, memberships, fingerprint)
        mine = memberships.select(:library_id)
        [
          Version.joins(:preset).where(fingerprint:, presets: {library_id: mine}),
          Draft.joins(:preset).where(fingerprint:, person:, presets: {library_id: mine}),
          ProposalItem.joins(:proposal).where(fingerprint:, proposals: {library_id: mine})
        ]
      end

      # @param presets [Array<Preset>]
      # @return [Hash{String => String}] the brush list's strip of each by its document's id, painted where it never was
      def self.of_all(presets)
        there = where(shape: "list", version: Core::Stroke::Strip::VERSION, fingerprint: presets.map(&:fingerprint))
        known = there.pluck(:fingerprint, :png).to_h
        presets.to_h do |preset|
          png = known[preset.fingerprint] || png_for(preset.fingerprint, "list") { preset.current_version.value }
          [preset.document_id, png]
        end
      end

      # A strip that was painted before, for a person who may see it. The brush list asks for dozens in a
      # second, so both are one question to the database.
      #
      # @param only [Integer, nil] the only library that it is looked for in
      # @return [String, nil] a PNG
      def self.seen_by(person, fingerprint, shape, only: nil)
        known = [fingerprint, shape, Core::Stroke::Strip::VERSION, person.id, only]
        rows = connection.select_all(SEEN, "A strip", known)
        rows.cast_values.first
      end

      SEEN = <<~SQL
        SELECT png FROM strips WHERE fingerprint = $1 AND shape = $2 AND version = $3 AND (
          EXISTS (SELECT 1 FROM versions e JOIN presets p ON p.id = e.preset_id
            JOIN memberships m ON m.library_id = p.library_id
            WHERE e.fingerprint = $1 AND m.person_id = $4 AND m.library_id = coalesce($5::bigint, m.library_id))
          OR EXISTS (SELECT 1 FROM drafts d JOIN presets p ON p.id = d.preset_id
            WHERE d.fingerprint = $1 AND d.person_id = $4 AND p.library_id = coalesce($5::bigint, p.library_id))
          OR EXISTS (SELECT 1 FROM proposal_items i JOIN proposals o ON o.id = i.proposal_id
            JOIN memberships m ON m.library_id = o.library_id
            WHERE i.fingerprint = $1 AND m.person_id = $4 AND m.library_id = coalesce($5::bigint, m.library_id)))
      SQL
      private_constant :SEEN

      # Strips shown together are painted for the largest of their brushes; the sizes asked for go
      # in steps, so that few different ones are kept.
      #
      # @param shape [String] as .png_for
      # @param greatest [String, nil] px, of the largest brush shown
      # @return [String] the shape's name for that; the shape itself where nothing is brought down
      def self.beside(shape, greatest)
        size = greatest.to_s[/\A\d{1,4}(?:\.\d{1,6})?\z/].to_f.clamp(0, 5000)
        full = Core::Stroke::Strip.full_size((shape == "small") ? "list" : shape)
        (size <= full) ? shape : "#{shape}@#{(full * STEP**Math.log(size / full, STEP).ceil).round}"
      end

      STEP = 1.25
      private_constant :STEP

      # @param preset [Core::Preset::Preset]
      # @param shape [String] one of Core::Stroke::Strip::SHAPES
      # @return [String] a PNG
      # @raise [Core::Problem] when it cannot be painted
      def self.png_of(preset, shape) = png_for(preset.fingerprint, shape) { preset }

      # @param fingerprint [String]
      # @param shape [String] as above, or "small" for the brush list's strip at half its size; each as it is
      #   or as .beside names it
      # @param assets [#fetch] where its pictures are
      # @yieldreturn [Core::Preset::Preset] asked for only where the strip was never painted
      # @return [String] a PNG
      def self.png_for(fingerprint, shape, assets: Asset::Bytes, &preset)
        key = {fingerprint:, shape:, version: Core::Stroke::Strip::VERSION}
        found = where(key).pick(:png) and return found
        Watching::Metrics.painted
        value = preset.call
        plain, size = shape.sub("small", "list").split("@")
        way = {assets: Asset.at_hand(value, from: assets), shape: plain, beside: size.to_f}
        return keep(key, Core::Apart.call(Core::Stroke::Strip, :png, value, **way)) unless plain == "list"
        looks = Core::Apart.call(Core::Curation::Likeness, :looks, value, **way)
        keep(
          key.merge(shape: shape.sub("small", "list")),
          looks.png,
          looks
        ) && keep(key.merge(shape: shape.sub("list", "small")), looks.half)
        shape.start_with?("small") ? looks.half : looks.png
      end

      def self.keep(key, png, looks = nil)
        compared = looks && key[:shape] == "list"
        row = key.merge(png:, hash64: (looks.hash64 if compared), thumb: (looks.thumb if compared))
        by_itself { insert(row) }
        png
      end
      private_class_method :keep

      # On a connection of its own where something longer is under way on this one: two who paint the same would wait
      # for each other's whole deed.
      def self.by_itself
        return yield unless connection.transaction_open?
        Thread.new { connection_pool.with_connection { yield } }.value
      end
      private_class_method :by_itself
    end
  end
end
