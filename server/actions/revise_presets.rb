# frozen_string_literal: true

module Fobrel
  module Actions
    # Gives several brushes new settings at once: as this person's drafts, or as versions for
    # everybody. Whatever works out new settings for many (fitting to a canvas, copying settings,
    # renaming) goes through here, so that each shows first what it would do and can be undone.
    class RevisePresets < Deed
      # What one brush would become.
      Row = Struct.new(:preset, :before, :after) do
        def changes = Core::Preset::Changes.between(before, after)
      end

      # What would happen, without changing anything.
      #
      # @param ids [Array<Integer>]
      # @yieldparam value [Core::Preset::Preset] what this person sees of the brush: their draft,
      #   or else the current version
      # @yieldreturn [Core::Preset::Preset]
      # @return [Array<Row>] those that would change, in the order of the ids
      def self.plan(library:, person:, ids:, as: "drafts")
        presets = presets_of(library, ids)
        drafts = (as == "drafts") ? Models::Draft.where(person:, preset: presets).index_by(&:preset_id) : {}
        presets.filter_map do |preset|
          before = (drafts[preset.id] || preset.current_version).value
          after = yield before
          Row.new(preset, before, after) unless after.equal?(before) || after.alike?(before)
        end
      end

      # @param rows [Array<Row>]
      # @param as [String] "drafts" or "versions"
      # @param kind [String] for the history
      # @param deed [String] such as "fitted to 1920 × 1080"
      def initialize(library:, person:, rows:, as:, kind:, deed:)
        @library = library
        @person = person
        @rows = rows
        @as = as
        @kind = kind
        @deed = deed
      end

      # @return [Models::HistoryEntry]
      def call
        revise(changes)
        said = "#{brushes(@rows.size)} #{@deed}#{", as drafts" if @as == "drafts"}"
        write_down(@library, @person, @kind, said)
      end

      # The same within another deed.
      #
      # @param changes [History::Changes] of that deed
      def revise(changes)
        raise Core::Problem, NOTHING if @rows.empty?
        presets = Models::Preset.where(id: @rows.map { _1.preset.id })
        return changes.watch(presets, %w[current_version_id]) { save } if @as == "versions"
        presets.order(:id).lock.ids
        changes.watch(Models::Draft.where(person: @person, preset: presets)) { keep }
      end

      private

      def save
        items = @rows.map { |row| AddVersions::Item.new(row.preset, row.after, @deed.upcase_first, nil) }
        AddVersions.call(items:, person: @person)
      end

      # What KeepDraft does for one brush, for all in a few questions.
      def keep
        was = Models::Draft.where(person: @person, preset: @rows.map(&:preset)).index_by(&:preset_id)
        back, changed = @rows.partition { |row| row.after.alike?(row.preset.current_version.value) }
        Models::Draft.where(id: back.filter_map { was[_1.preset.id]&.id }).delete_all
        drafts = changed.map { |row| draft(row, was[row.preset.id]) }
        drafts.each_slice(200) { Models::Draft.upsert_all(_1, unique_by: %i[person_id preset_id]) }
        Models::Tuning.add_all(@person, @rows.map { [_1.preset.id, _1.before, _1.after] })
      end

      def draft(row, was)
        {
          person_id: @person.id,
          preset_id: row.preset.id,
          base_version_id: was&.base_version_id || row.preset.current_version_id,
          document: row.after.to_h,
          fingerprint: row.after.fingerprint
        }
      end
    end
  end
end
