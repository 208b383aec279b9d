# frozen_string_literal: true

module Fobrel
  module Actions
    # Takes brushes back: one, the picked ones, a set, or all that changed; to the current
    # version, to the baseline, or to the first version. Nothing is lost: what was saved stays among
    # the versions, and all can be undone.
    class ResetPresets < Deed
      WORDS = {
        "current" => "the current version",
        "baseline" => "the baseline",
        "received" => "the first version"
      }.freeze

      # What would go back.
      #
      # @param to [String] one of WORDS
      # @return [ActiveRecord::Relation<Models::Preset>] with a draft of this person's, or
      #   painting otherwise than where they would go back to
      def self.changed(library, person, to = "baseline")
        mine = Models::Draft.where(person:).select(:preset_id)
        presets = library.presets.joins(:current_version).in_order
        return presets.where(id: mine) if to == "current"
        first = "(SELECT e.id FROM versions e WHERE e.preset_id = presets.id ORDER BY e.number LIMIT 1)"
        target = (to == "baseline") ? "presets.baseline_version_id" : first
        presets.joins("JOIN versions target ON target.id = #{target}")
          .where("versions.fingerprint <> target.fingerprint OR presets.id IN (?)", mine)
      end

      # @param ids [Array<Integer>, nil] nil takes everything changed
      # @param to [String] one of WORDS
      def initialize(library:, person:, ids: nil, to: "baseline")
        @library = library
        @person = person
        @to = to
        @ids = ids || self.class.changed(library, person, to).map(&:id)
      end

      # @return [Models::HistoryEntry]
      def call
        presets = presets_of(@library, @ids)
        drafts = Models::Draft.where(person: @person, preset: presets)
        changed = drafts.pluck(:preset_id)
        changes.watch(Models::Preset.where(id: presets), %w[current_version_id]) { changed |= go_back(presets) }
        changes.watch(drafts) { drafts.delete_all }
        raise Core::Problem, "These brushes are unchanged, so there is nothing to reset." if changed.empty?
        write_down(@library, @person, "reset", "#{brushes(changed.size)} reset to #{WORDS.fetch(@to)}")
      end

      private

      # @return [Array<Integer>] presets that have another version now
      # @raise [Core::Problem]
      def go_back(presets)
        targets = presets.to_h { |preset| [preset, preset.version_to_go_back_to(@to)] }
        targets.reject! { |preset, target| preset.current_version.fingerprint == target.fingerprint }
        items = targets.map do |preset, target|
          AddVersions::Item.new(preset, target.value, "Back to version #{target.number}", nil)
        end
        AddVersions.call(items:, person: @person)
        targets.keys.map(&:id)
      rescue AddVersions::Locked => e
        raise e.but(
          "Nothing went back, and every draft is still there. Leave it out, or ask a lead to unlock it or to take it " \
            "back."
        )
      end
    end
  end
end
