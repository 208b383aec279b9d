# frozen_string_literal: true

module Fobrel
  module Views
    # A brush as the Bench shows it: its settings, drafts, versions, and what a change would do to it.
    module Brushes
      class << self
        # @param preset [Models::Preset]
        # @param person [Models::Person] who looks at it
        # @return [Hash] as openapi.yaml describes Detail
        def detail(preset, person)
          {
            preset: Rows.of([preset], person).first,
            library: preset.library_id,
            origin: preset.origin,
            hidden: !preset.hidden_at.nil?,
            locked_by: preset.locked_by&.name,
            next_name: Core::Curation::Numbering.next_name(preset.name, preset.library.preset_names_like(preset.name)),
            **settings(preset),
            **places(preset),
            **history(preset),
            **own(preset, person),
            **origins(preset, person)
          }
        end

        # Whether what a page shows of a brush is still so.
        def state(preset, person)
          current = preset.current_version
          {
            version: current.number,
            by: current.person&.name,
            baseline: preset.baseline_version.number,
            name: preset.name,
            locked_by: preset.locked_by&.name,
            kept: preset.seen_by(person).fingerprint,
            hidden: !preset.hidden_at.nil?
          }
        end

        # @param version [Models::Version]
        # @return [Hash] with its settings
        def version(version)
          {number: version.number, fingerprint: version.fingerprint, document: filled(version.document)}
        end

        # What is there after a change.
        #
        # @param kept [Actions::KeepDraft::Kept]
        # @param held [Array<String>] why some of it stays as it was
        # @return [Hash] as openapi.yaml describes Kept
        def kept(preset, person, kept, held: [])
          {
            draft: draft(kept.draft),
            document: filled(kept.value.to_h),
            kept: (kept.draft || preset.current_version).fingerprint,
            sheet: sheet(kept.value),
            merged: kept.merged,
            given_up: kept.given_up,
            held:,
            room: Models::Tuning.of(preset, person).room
          }
        end

        # What going back would do to a brush.
        #
        # @param draft [Models::Draft, nil] of whoever asks
        # @param target [Models::Version]
        # @return [Hash] `words` say what going back changes, now → then; `tuned` what was changed before that
        def going_back(preset, person, draft, target)
          now = draft || preset.current_version
          from = (draft && target.id == preset.current_version_id) ? draft.base_version : target
          {
            id: preset.id,
            name: preset.name,
            draft: !draft.nil?,
            to: target.number,
            before: now.fingerprint,
            after: target.fingerprint,
            at: draft&.updated_at&.iso8601,
            mine: !draft.nil? || preset.current_version.person_id == person.id,
            greatest: [now, target].map { |one| Core::Stroke::Strip.greatest(one.value) },
            words: Core::Preset::Changes.between(now.value, target.value).words,
            tuned: Core::Preset::Changes.between(from.value, now.value).words
          }
        end

        # @param row [Actions::RevisePresets::Row]
        def revised(row)
          {
            id: row.preset.id,
            name: row.preset.name,
            before: row.before.fingerprint,
            document: row.after.to_h,
            words: row.changes.words,
            greatest: Core::Stroke::Strip.greatest(row.before)
          }
        end

        # A draft brought together with what was saved meanwhile; what is undecided stands as theirs.
        #
        # @param draft [Models::Draft]
        # @param choices [Hash{String => String}] a side by the key of a conflict
        # @return [Hash] as openapi.yaml describes Merge
        def merge(draft, choices)
          merge = draft.merge
          keys = merge.conflicts.map(&:key)
          theirs = keys.to_h { |key| [key, "theirs"] }
          base = draft.base_version
          current = draft.preset.current_version
          {
            base: base.number,
            base_fingerprint: base.fingerprint,
            version: current.number,
            by: current.person&.name,
            mine: merge.mine.words,
            theirs: merge.theirs.words,
            undecided: keys.any? { |key| !Core::Preset::Merge::SIDES.include?(choices[key]) },
            document: filled(merge.preset(theirs.merge(choices.slice(*keys))).to_h),
            their_document: filled(current.document),
            conflicts: merge.conflicts.map { |one| {key: one.key, title: one.title, words: one.words} }
          }
        end

        # The settings of a brush as a form shows them.
        #
        # @param value [Core::Preset::Preset]
        # @return [Hash] as openapi.yaml describes Sheet
        def sheet(value)
          sheet = Core::Preset::Sheet.new(value)
          {settings: sheet.settings.map(&:to_h), drives: sheet.drives, captures: sheet.captures}
        end

        private

        def filled(document) = Core::Preset::Schema.fill(document)

        def settings(preset)
          current = preset.current_version
          {
            document: filled(current.document),
            baseline_document: filled(preset.baseline_version.document),
            received_document: filled(preset.received_version.document),
            captured: Core::Preset::Capture.held(current.value),
            since_baseline: Core::Preset::Changes.between(preset.baseline_version.value, current.value).words,
            needs: current.value.parts
          }
        end

        def places(preset)
          {
            sets: preset.brush_sets.order(:name).map { |set| set.slice(:id, :name) },
            desks: preset.desks.order(:name).pluck(:name)
          }
        end

        def history(preset)
          {
            baselines: preset.baselines.includes(:version, :person).reverse.map { |baseline|
              {number: baseline.version.number, by: baseline.person.name, at: baseline.created_at.iso8601}
            },
            versions: preset.versions.includes(:person, :version_name).reverse.map { |one| line(one) }
          }
        end

        # Where it was taken from, and who took it, as far as the person sees both.
        def origins(preset, person)
          mine = person.memberships.select(:library_id)
          came_from = preset.came_from
          seen = came_from && Models::Preset.where(library_id: mine).find_by(id: came_from["preset"])
          taken = Models::Preset.shown.where(library_id: mine).where(
            "(presets.came_from ->> 'preset')::bigint = ?",
            preset.id
          )
          {
            came_from: came_from && {
              library: came_from["library_name"],
              **came_from.slice("name", "version").transform_keys(&:to_sym),
              here: seen && "/#{seen.library_id}/bench/#{seen.id}"
            },
            taken: taken.includes(:library).order(:id).map { |one| taken_by(one, preset) }
          }
        end

        def taken_by(one, preset)
          {
            library: one.library.name,
            name: one.name,
            path: "/#{one.library_id}/bench/#{one.id}",
            behind: one.came_from["fingerprint"] != preset.fingerprint
          }
        end

        # A version, by what it is known by.
        def line(version)
          {
            **version.slice(:number, :fingerprint, :note),
            name: version.version_name&.name,
            by: version.person&.name,
            at: version.created_at.iso8601,
            greatest: Core::Stroke::Strip.greatest(version.value)
          }
        end

        # What of a brush is this person's.
        def own(preset, person)
          draft = preset.drafts.find_by(person:)
          {
            draft: draft(draft),
            kept: (draft || preset.current_version).fingerprint,
            sheet: sheet((draft || preset.current_version).value),
            room: Models::Tuning.find_by(preset:, person:)&.room || {back: 0, forth: 0}
          }
        end

        # With the version it stands on, so that only one's own changes are told as such.
        def draft(draft)
          draft && {
            document: filled(draft.document),
            fingerprint: draft.fingerprint,
            base: draft.base_version.number,
            base_document: filled(draft.base_version.document),
            at: draft.updated_at.iso8601
          }
        end
      end
    end
  end
end
