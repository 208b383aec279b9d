# frozen_string_literal: true

module Fobrel
  module Actions
    # Gives several brushes new settings at once: as this person's drafts, or as editions for
    # everybody. Whatever works out new settings for many (fitting to a canvas, copying settings,
    # renaming) goes through here, so that each shows first what it would do and can be undone.
    class RevisePresets < Action
      WAYS = %w[drafts editions].freeze

      # What one brush would become.
      Row = Struct.new(:preset, :before, :after) do
        def changes = Core::Preset::Changes.between(before, after)
      end

      # What would happen, without changing anything.
      #
      # @param ids [Array<Integer>]
      # @yieldparam value [Core::Preset::Preset] what this person sees of the brush: their draft,
      #   or else the current edition
      # @yieldreturn [Core::Preset::Preset]
      # @return [Array<Row>] those that would change, in the order of the ids
      def self.plan(library:, person:, ids:, as: "drafts")
        presets = presets_of(library, ids)
        drafts = (as == "drafts") ? Models::Draft.where(person:, preset: presets).index_by(&:preset_id) : {}
        presets.filter_map do |preset|
          before = (drafts[preset.id] || preset.current_edition).value
          after = yield before
          Row.new(preset, before, after) unless after.equal?(before) || after.alike?(before)
        end
      end

      # @param rows [Array<Row>]
      # @param as [String] one of WAYS
      # @param kind [String] for the ledger
      # @param deed [String] such as "fitted to 1920 × 1080"
      def initialize(library:, person:, rows:, as:, kind:, deed:)
        @library = library
        @person = person
        @rows = rows
        @as = as
        @kind = kind
        @deed = deed
        @undo = {"drafts" => [], "made" => [], "editions" => []}
      end

      # @return [Models::LedgerEntry]
      def call
        raise Core::Problem, "Nothing would change, so nothing was done." if @rows.empty?
        (@as == "editions") ? save : keep
        write_down(
          @library,
          @person,
          @kind,
          "#{brushes(@rows.size)} #{@deed}#{", as drafts" if @as == "drafts"}",
          @undo
        )
      end

      private

      def save
        Models::Preset.where(id: @rows.map { _1.preset.id }).order(:id).lock.pluck(:id)
        before = @rows.map { _1.preset.current_edition_id }
        ids = AddEditions.call(
          items: @rows.map {
            AddEditions::Item.new(_1.preset, _1.after, @deed.upcase_first, nil)
          },
          person: @person
        )
        @undo["editions"] = @rows.zip(before, ids).map { |row, was, now| [row.preset.id, was, now] }
      end

      # What KeepDraft does for one brush, for all in a few questions.
      def keep
        ids = @rows.map { _1.preset.id }
        Models::Preset.where(id: ids).order(:id).lock.pluck(:id)
        was = Models::Draft.where(person: @person, preset_id: ids).index_by(&:preset_id)
        @undo["drafts"] = was.values.map { _1.slice(:preset_id, :base_edition_id, :document, :fingerprint) }
        back, changed = @rows.partition { |row| row.after.alike?(row.preset.current_edition.value) }
        Models::Draft.where(id: back.filter_map { was[_1.preset.id]&.id }).delete_all
        drafts = changed.map { |row| draft(row, was[row.preset.id]) }
        drafts.each_slice(200) { Models::Draft.upsert_all(_1, unique_by: %i[person_id preset_id]) }
        prints = drafts.to_h { [_1[:preset_id], _1[:fingerprint]] }
        @undo["made"] = ids.map { [_1, prints[_1]] }
        Models::Tuning.add_all(@person, @rows.map { [_1.preset.id, _1.before, _1.after] })
      end

      def draft(row, was)
        {
          person_id: @person.id,
          preset_id: row.preset.id,
          base_edition_id: was&.base_edition_id || row.preset.current_edition_id,
          document: row.after.to_h,
          fingerprint: row.after.fingerprint
        }
      end
    end
  end
end
