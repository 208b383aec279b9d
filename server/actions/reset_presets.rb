# frozen_string_literal: true

module Fobrel
  module Actions
    # Takes brushes back to the edition received: one, the picked ones, or all that changed.
    # Nothing is lost: what was saved stays among the editions, and all can be undone.
    class ResetPresets < Action
      # What would go back.
      #
      # @return [ActiveRecord::Relation<Models::Preset>] with a draft of this person's, or
      #   painting otherwise than home
      def self.changed(library, person)
        library.presets.joins(:current_edition, :home_edition)
          .where("editions.fingerprint <> home_editions_presets.fingerprint OR presets.id IN (?)",
            Models::Draft.where(person:).select(:preset_id)).in_order
      end

      # @param ids [Array<Integer>, nil] nil takes everything changed
      def initialize(library:, person:, ids: nil)
        @library = library
        @person = person
        @ids = ids || self.class.changed(library, person).map(&:id)
      end

      # @return [Models::LedgerEntry]
      def call
        presets = presets_of(@library, @ids)
        drafts = Models::Draft.where(person: @person, preset: presets)
        kept = drafts.map { _1.slice(:preset_id, :base_edition_id, :document, :fingerprint) }
        drafts.destroy_all
        moved = presets.select(&:changed_from_home?).map { go_home(_1) }
        changed = kept.map { _1["preset_id"] } | moved.map(&:first)
        raise Core::Problem, "Nothing was changed on these brushes, so nothing needs to go back." if changed.empty?
        write_down(@library, @person, "reset", "#{changed.size} #{(changed.size == 1) ? "brush" : "brushes"} back to the edition received",
          {"drafts" => kept, "editions" => moved})
      end

      private

      def go_home(preset)
        preset.lock!
        before = preset.current_edition_id
        home = preset.home_edition
        edition = AddEdition.call(preset:, value: home.value, person: @person, note: "Back to edition #{home.number}")
        [preset.id, before, edition.id]
      end
    end
  end
end
