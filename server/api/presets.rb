# frozen_string_literal: true

module Fobrel
  module Api
    # Brushes: the Wall's list, one brush with its editions, drafts, saving, going back.
    class Presets < Base
      helpers Rows

      # Rows of a plan that are shown one by one; the rest is counted.
      MOST_SHOWN = 200
      # Groups of settings that can be copied from one brush to others.
      COPIED = %w[mark trail response surface pigment habits].freeze

      # What would go back if everything changed went back; to the current edition, that is
      # every draft.
      get "/api/libraries/:library/changed" do
        to = way_back(params.fetch("to", "home"))
        changed = Actions::ResetPresets.changed(library, person, to).includes(
          :current_edition,
          :home_edition
        ).to_a
        drafts = Models::Draft.where(person:, preset: changed).includes(:base_edition).index_by(&:preset_id)
        answer({presets: changed.map { changed_row(_1, drafts[_1.id], _1.edition_to_go_back_to(to)) }})
      end

      post "/api/libraries/:library/reset" do
        data = json
        entry = Actions::ResetPresets.call(
          library: library,
          person:,
          ids: data.key?("preset_ids") ? ids(data) : nil,
          to: way_back(text(data, "to", "home"))
        )
        answer({entry: Views.entry(entry)})
      end

      # New settings for many: fitted to a canvas, or copied from another brush. With plan=true
      # nothing is changed: it says what would happen.
      post "/api/libraries/:library/revisions" do
        data = json
        found = library
        as = Actions::RevisePresets::WAYS.include?(data["as"]) ? data["as"] : "drafts"
        kind, deed, change = revision(data, found)
        rows = Actions::RevisePresets.plan(library: found, person:, ids: ids(data), as:, &change)
        if signed?("plan")
          next answer(
            {
              rows: rows.first(MOST_SHOWN).map {
                revised_row(_1)
              },
              count: rows.size,
              entry: nil
            }
          )
        end
        entry = Actions::RevisePresets.call(library: found, person:, rows:, as:, kind:, deed:)
        answer({rows: [], count: rows.size, entry: Views.entry(entry)}, 201)
      end

      get "/api/presets/:id" do
        answer(detail(preset))
      end

      # What a page asks every few seconds: whether what it shows is still so.
      get "/api/presets/:id/state" do
        found = preset
        draft = found.drafts.find_by(person:)
        answer(
          {
            edition: found.current_edition.number,
            by: found.current_edition.person&.name,
            home: found.home_edition.number,
            name: found.name,
            locked_by: found.locked_by&.name,
            kept: (draft || found.current_edition).fingerprint,
            hidden: !found.hidden_at.nil?
          }
        )
      end

      # A change is kept the moment it happens; `was` is what it was made on, and what of it cannot
      # be does not hold up the rest.
      put "/api/presets/:id/draft" do
        data = json
        found = preset
        there = (found.drafts.find_by(person:) || found.current_edition).value
        possible = Core::Preset::Possible.of(data["document"], on: there)
        was = data["was"] && document({"document" => data["was"]}, found.library)
        kept = Actions::KeepDraft.call(
          preset: found,
          person:,
          value: own_document(possible.preset, found),
          was:,
          fresh: data["fresh"] != false
        )
        answer(kept_view(found.reload, kept).merge(held: possible.held))
      end

      # A step back or forth in what was tuned.
      post "/api/presets/:id/steps" do
        found = preset
        way = json["go"]
        raise Halt.new(400, "go must be back or forth.") unless Actions::StepTuning::WAYS.key?(way)
        kept = Actions::StepTuning.call(preset: found, person:, way:)
        unless kept
          raise Halt.new(
            422,
            (way == "back") ? "There is no step to take back." : "There is no step to do again."
          )
        end
        answer(kept_view(found.reload, kept).merge(held: []))
      end

      delete "/api/presets/:id/draft" do
        found = preset
        found.drafts.where(person:).destroy_all
        answer({kept: found.current_edition.fingerprint})
      end

      post "/api/presets/:id/editions" do
        data = json
        found = preset
        value = own_document(document(data, found.library), found)
        Actions::SaveEdition.call(
          preset: found,
          person:,
          value:,
          base: data["base"],
          note: text(data, "note", ""),
          **captured(data)
        )
        answer(detail(found.reload), 201)
      end

      post "/api/presets/:id/variations" do
        data = json
        found = preset
        places = Array(data["places"]).grep(Hash).first(50)
        made = Actions::SaveVariation.call(
          preset: found,
          person:,
          value: document(data, found.library),
          name: text(data, "name", ""),
          places:,
          order: order(data),
          **captured(data)
        )
        Actions::KeepFavourite.call(preset: made, person:, on: true) if data["favourite"] == true
        answer(detail(made), 201)
      end

      # One edition with its settings.
      get "/api/presets/:id/editions/:number" do
        edition = preset.editions.find_by!(number: number(params["number"]))
        answer(
          {
            number: edition.number,
            fingerprint: edition.fingerprint,
            document: Core::Preset::Schema.fill(edition.document)
          }
        )
      end

      put "/api/presets/:id/editions/:number" do
        found = preset
        data = json
        said = data.slice("name", "note").to_h { |key, _| [key.to_sym, text(data, key)] }
        Actions::DescribeEdition.call(preset: found, number: number(params["number"]), **said)
        answer(detail(found.reload))
      end

      # Two people's changes brought together against the edition both began with.
      post "/api/presets/:id/merge" do
        data = json
        found = preset
        base = found.editions.find_by!(number: number(data["base"]))
        merge = Core::Preset::Merge.new(
          base: base.value,
          mine: document(data, found.library),
          theirs: found.current_edition.value
        )
        answer(merged(merge, data["choices"].is_a?(Hash) ? data["choices"] : {}, found, base))
      end

      post "/api/presets/:id/restore" do
        entry = Actions::RestoreEdition.call(preset: preset, person:, number: number(json["number"]))
        answer({entry: Views.entry(entry)})
      end

      put "/api/presets/:id/home" do
        entry = Actions::SetHome.call(preset: preset, person:, number: number(json["number"]))
        answer({entry: Views.entry(entry)})
      end

      put "/api/presets/:id/lock" do
        entry = Actions::LockPreset.call(preset: preset, person:, locked: json["locked"] == true)
        answer({entry: Views.entry(entry)})
      end

      put "/api/presets/:id/recent" do
        Models::Recent.upsert(
          {person_id: person.id, preset_id: preset.id, used_at: Time.current},
          unique_by: %i[person_id preset_id]
        )
        answer({ok: true})
      end

      put "/api/presets/:id/favourite" do
        on = json["on"] == true
        Actions::KeepFavourite.call(preset: preset, person:, on:)
        answer({favourite: on})
      end

      helpers do
        def preset = of_library(Models::Preset.includes(:current_edition, :home_edition))

        # A change belongs to the brush it was made on, and needs only pictures of this library.
        def own_document(value, preset)
          unless value.id == preset.document_id
            raise Halt.new(
              422,
              "The document is that of another brush. Nothing was saved."
            )
          end
          seen(value, preset.library)
        end

        # What a new brush is found by, as far as it was said.
        def order(data)
          said = data.slice("family", "notes", "tags")
          raise Halt.new(400, "tags must be a list of texts.") unless said.fetch(
            "tags",
            []
          ).is_a?(Array) && said.fetch("tags", []).all?(String)
          said.merge(
            said.key?("notes") ? {
              "notes" => text(
                data,
                "notes"
              )
            } : {}
          ).merge(said["family"] ? {"family" => number(said["family"])} : {})
        end

        def kept_view(preset, kept)
          {
            draft: draft_view(kept.draft),
            document: Core::Preset::Schema.fill(kept.value.to_h),
            kept: (kept.draft || preset.current_edition).fingerprint,
            merged: kept.merged,
            given_up: kept.given_up,
            room: Models::Tuning.of(preset, person).room
          }
        end

        # With the edition it stands on, so that only one's own changes are told as such.
        def draft_view(draft)
          draft && {
            document: Core::Preset::Schema.fill(draft.document),
            fingerprint: draft.fingerprint,
            base: draft.base_edition.number,
            base_document: Core::Preset::Schema.fill(draft.base_edition.document),
            at: draft.updated_at.iso8601
          }
        end

        def way_back(to)
          Actions::ResetPresets::WORDS.key?(to) ? to : raise(
            Halt.new(
              400,
              "to must be one of #{Actions::ResetPresets::WORDS.keys.join(", ")}."
            )
          )
        end

        def captured(data)
          return {} unless data["capture"].is_a?(Array)
          {capture: data["capture"].grep(String) & Core::Preset::Capture::ITEMS.keys}
        end

        # `words` say what going back changes, now → then; `tuned` what was changed before that.
        def changed_row(preset, draft, target)
          now = draft || preset.current_edition
          from = (draft && target.id == preset.current_edition_id) ? draft.base_edition : target
          {
            id: preset.id,
            name: preset.name,
            draft: !draft.nil?,
            to: target.number,
            before: now.fingerprint,
            after: target.fingerprint,
            at: draft&.updated_at&.iso8601,
            mine: !draft.nil? || preset.current_edition.person_id == person.id,
            greatest: [now, target].map {
              Core::Stroke::Strip.greatest(_1.value)
            },
            words: Core::Preset::Changes.between(now.value, target.value).words,
            tuned: Core::Preset::Changes.between(from.value, now.value).words
          }
        end

        def revised_row(row)
          {
            id: row.preset.id,
            name: row.preset.name,
            before: row.before.fingerprint,
            document: row.after.to_h,
            words: row.changes.words,
            greatest: Core::Stroke::Strip.greatest(row.before)
          }
        end

        def revision(data, library)
          case data["change"]
          when "fit"
            width, height, share = data.values_at("width", "height", "share")
            unless [width, height].all? {
              _1.is_a?(Numeric) && _1.between?(1, 100_000)
            } && share.is_a?(Numeric) && share.between?(0.01, 1)
              raise Halt.new(
                422,
                "A canvas is 1 to 100000 px a side, and the share lies between 1 and 100 %. Nothing was changed."
              )
            end
            [
              "fit",
              "fitted to a canvas of #{width} × #{height} px",
              ->(value) {
                Core::Curation::CanvasFit.of(value, width:, height:, share:)
              }
            ]
          when "copy"
            from = document(data, library)
            groups = Array(data["groups"]) & COPIED
            raise Halt.new(422, "Choose at least one group of settings to copy. Nothing was changed.") if groups.empty?
            [
              "copy settings",
              "given the settings #{groups.join(", ")} of “#{from.name}”",
              ->(value) { Core::Preset::Changes.between(value, from).in(groups).apply(value) }
            ]
          else raise Halt.new(400, "change must be fit or copy.")
          end
        end

        def merged(merge, choices, preset, base)
          undecided = merge.conflicts.any? { !Core::Preset::Merge::SIDES.include?(choices[_1.key]) }
          shown = merge.preset(
            merge.conflicts.to_h {
              [_1.key, "theirs"]
            }.merge(choices.slice(*merge.conflicts.map(&:key)))
          )
          {
            base: base.number,
            base_fingerprint: base.fingerprint,
            edition: preset.current_edition.number,
            by: preset.current_edition.person&.name,
            mine: merge.mine.words,
            theirs: merge.theirs.words,
            undecided:,
            document: Core::Preset::Schema.fill(shown.to_h),
            their_document: Core::Preset::Schema.fill(preset.current_edition.document),
            conflicts: merge.conflicts.map { {key: _1.key, title: _1.title, words: _1.words} }
          }
        end

        def detail(preset)
          current = preset.current_edition
          places(preset).merge(
            **own(preset, current),
            preset: rows([preset]).first,
            library: preset.library_id,
            next_name: Core::Curation::Numbering.next_name(preset.name, preset.library.preset_names),
            document: Core::Preset::Schema.fill(current.document),
            home_document: Core::Preset::Schema.fill(preset.home_edition.document),
            received_document: Core::Preset::Schema.fill(preset.received_edition.document),
            locked_by: preset.locked_by&.name,
            captured: Core::Preset::Capture.held(current.value),
            homes: preset.homes.includes(:edition, :person).reverse.map {
              {number: _1.edition.number, by: _1.person.name, at: _1.created_at.iso8601}
            },
            origin: preset.origin,
            hidden: !preset.hidden_at.nil?,
            editions: preset.editions.includes(:person, :edition_name).reverse.map { Views.edition(_1) },
            needs: current.value.needs
          )
        end

        def places(preset)
          {
            sets: preset.brush_sets.order(:name).map { _1.slice(:id, :name) },
            seats: preset.seats.order(:name).pluck(:name)
          }
        end

        # What of a brush is this person's.
        def own(preset, current)
          draft = preset.drafts.find_by(person:)
          {
            draft: draft_view(draft),
            kept: (draft || current).fingerprint,
            room: Models::Tuning.find_by(preset:, person:)&.room || {back: 0, forth: 0}
          }
        end
      end
    end
  end
end
