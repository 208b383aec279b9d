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
          Row.new(preset, before, after) unless after.alike?(before)
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
        (@as == "editions") ? save : @rows.each { |row| keep(row) }
        write_down(@library, @person, @kind, "#{brushes(@rows.size)} #{@deed}#{", as drafts" if @as == "drafts"}", @undo)
      end

      private

      def save
        Models::Preset.where(id: @rows.map { _1.preset.id }).order(:id).lock.pluck(:id)
        before = @rows.map { _1.preset.current_edition_id }
        ids = AddEditions.call(items: @rows.map { AddEditions::Item.new(_1.preset, _1.after, @deed.upcase_first, nil) }, person: @person)
        @undo["editions"] = @rows.zip(before, ids).map { |row, was, now| [row.preset.id, was, now] }
      end

      def keep(row)
        was = row.preset.drafts.find_by(person: @person)
        @undo["drafts"] << was.slice(:preset_id, :base_edition_id, :document, :fingerprint) if was
        made = KeepDraft.call(preset: row.preset, person: @person, value: row.after)
        @undo["made"] << [row.preset.id, made.draft&.fingerprint]
      end
    end
  end
end
