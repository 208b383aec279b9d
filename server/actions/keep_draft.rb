# frozen_string_literal: true

module Fobrel
  module Actions
    # Keeps a person's change the moment it happens. A change back to the current version leaves no
    # draft. What another window of the same person, or somebody who saved, changed meanwhile stays:
    # the two are brought together setting by setting, and where both changed the same one, the
    # change made last counts.
    class KeepDraft < Action
      # What is there now: the draft (nil where nothing differs from the current version), its
      # settings, and in words what somebody had changed meanwhile and what of it gave way.
      Kept = Struct.new(:draft, :value, :merged, :given_up, keyword_init: true)

      # @param value [Core::Preset::Preset]
      # @param was [Core::Preset::Preset, nil] what the change was made on; nil where it counts
      #   whatever is there
      # @param fresh [Boolean] false where it goes on with the step before, see Models::Tuning#add
      # @param step [Boolean] false where going back and forth in the steps brought it
      def initialize(preset:, person:, value:, was: nil, fresh: true, step: true)
        @preset = preset
        @person = person
        @value = value
        @was = was
        @fresh = fresh
        @step = step
      end

      # @return [Kept]
      def call
        @preset.lock!
        draft = @preset.drafts.find_or_initialize_by(person: @person)
        there = draft.persisted? ? draft.value : @preset.current_version.value
        value, merged, given_up = together(there)
        Models::Tuning.of(@preset, @person).add(there, value, fresh: @fresh) if @step
        Kept.new(draft: write(draft, value), value:, merged:, given_up:)
      end

      private

      def together(there)
        return [@value, [], []] if @was.nil? || @was.alike?(there) || @value.alike?(there)
        merge = Core::Preset::Merge.new(base: @was, mine: @value, theirs: there)
        value = merge.preset(merge.conflicts.to_h { [_1.key, "mine"] })
        [value, merge.theirs.words, merge.conflicts.map { "#{_1.title} #{_1.words["theirs"]}" }]
      rescue Core::Preset::Preset::Invalid
        # Each is possible and both together are not; the change made last counts.
        [@value, merge.theirs.words, merge.theirs.words]
      end

      def write(draft, value)
        if value.alike?(@preset.current_version.value)
          draft.destroy! if draft.persisted?
          return
        end
        draft.base_version ||= @preset.current_version
        draft.update!(document: value.to_h, fingerprint: value.fingerprint)
        draft
      end
    end
  end
end
