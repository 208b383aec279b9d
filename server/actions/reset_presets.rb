# frozen_string_literal: true

module Fobrel
  module Actions
    # Takes brushes back: one, the picked ones, a set, or all that changed; to the current
    # edition, to home, or to the first edition. Nothing is lost: what was saved stays among
    # the editions, and all can be undone.
    class ResetPresets < Action
      WORDS = {"current" => "the current edition", "home" => "home", "received" => "the first edition"}.freeze

      # What would go back.
      #
      # @param to [String] one of WORDS
      # @return [ActiveRecord::Relation<Models::Preset>] with a draft of this person's, or
      #   painting otherwise than where they would go back to
      def self.changed(library, person, to = "home")
        mine = Models::Draft.where(person:).select(:preset_id)
        presets = library.presets.joins(:current_edition).in_order
        return presets.where(id: mine) if to == "current"
        target = (to == "home") ? "presets.home_edition_id" : "(SELECT e.id FROM editions e WHERE e.preset_id = " \
          "presets.id ORDER BY e.number LIMIT 1)"
        presets.joins("JOIN editions target ON target.id = #{target}")
          .where("editions.fingerprint <> target.fingerprint OR presets.id IN (?)", mine)
      end

      # @param ids [Array<Integer>, nil] nil takes everything changed
      # @param to [String] one of WORDS
      def initialize(library:, person:, ids: nil, to: "home")
        @library = library
        @person = person
        @to = to
        @ids = ids || self.class.changed(library, person, to).map(&:id)
      end

      # @return [Models::LedgerEntry]
      def call
        presets = presets_of(@library, @ids)
        drafts = Models::Draft.where(person: @person, preset: presets)
        kept = drafts.map { _1.slice(:preset_id, :base_edition_id, :document, :fingerprint) }
        drafts.destroy_all
        moved = go_back(presets)
        changed = kept.map { _1["preset_id"] } | moved.map(&:first)
        raise Core::Problem, "Nothing was changed on these brushes, so nothing needs to go back." if changed.empty?
        write_down(
          @library,
          @person,
          "reset",
          "#{brushes(changed.size)} back to #{WORDS.fetch(@to)}",
          {"drafts" => kept, "made" => [], "editions" => moved}
        )
      end

      private

      # @raise [Core::Problem]
      def go_back(presets)
        Models::Preset.where(id: presets.map(&:id)).order(:id).lock.pluck(:id)
        targets = presets.to_h {
          [
            _1,
            _1.edition_to_go_back_to(@to)
          ]
        }.reject { |preset, target| preset.current_edition.fingerprint == target.fingerprint }
        before = targets.keys.map(&:current_edition_id)
        ids = AddEditions.call(
          items: targets.map { |preset, target|
            AddEditions::Item.new(preset, target.value, "Back to edition #{target.number}", nil)
          },
          person: @person
        )
        targets.keys.zip(before, ids).map { |preset, was, now| [preset.id, was, now] }
      rescue AddEditions::Locked => e
        raise e.but(
          "Nothing went back, and every draft is still there. Leave it out, or ask a lead to unlock it or to take it " \
            "back."
        )
      end
    end
  end
end
