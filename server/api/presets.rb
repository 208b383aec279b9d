# frozen_string_literal: true

module Fobrel
  module Api
    # One brush: its settings and draft, and what changes many brushes' settings at once.
    module Presets
      extend Sinatra::Extension

      # Rows of a plan that are shown one by one; the rest is counted.
      MOST_SHOWN = 200

      get "/api/presets/:id" do
        answer(Views::Brushes.detail(preset_here, person))
      end

      # What a page asks every few seconds: whether what it shows is still so.
      get "/api/presets/:id/state" do
        preset = preset_here
        answer({**Views::Brushes.state(preset, person), others: Models::Presence.note(preset, person)})
      end

      # A change is kept the moment it happens; `was` is what it was made on, and what of it cannot be does not hold
      # up the rest.
      put "/api/presets/:id/draft" do
        preset = preset_here
        possible = Core::Preset::Possible.of(json["document"], on: preset.seen_by(person).value)
        kept = Actions::KeepDraft.call(
          preset:,
          person:,
          value: own(possible.preset, preset),
          was: json["was"] && preset_from(json["was"], preset.library),
          fresh: json.fetch("fresh", true)
        )
        answer(Views::Brushes.kept(preset.reload, person, kept, held: possible.held))
      end

      delete "/api/presets/:id/draft" do
        preset = preset_here
        preset.drafts.where(person:).destroy_all
        answer({kept: preset.current_version.fingerprint})
      end

      # A step back or forth in what was tuned.
      post "/api/presets/:id/steps" do
        preset = preset_here
        kept = Actions::StepTuning.call(preset:, person:, way: json["go"])
        answer(Views::Brushes.kept(preset.reload, person, kept))
      end

      put "/api/presets/:id/lock" do
        answer_entry(Actions::LockPreset.call(preset: preset_here, person:, locked: json["locked"]))
      end

      put "/api/presets/:id/recent" do
        Models::Recent.note(person, preset_here)
        answer({ok: true})
      end

      put "/api/presets/:id/favourite" do
        Actions::KeepFavourite.call(preset: preset_here, person:, on: json["on"])
        answer({favourite: json["on"]})
      end

      # What would go back if everything changed went back; to the current version, that is every draft.
      get "/api/libraries/:library/changed" do
        to = params.fetch("to", "baseline")
        changed = Actions::ResetPresets.changed(library, person, to).includes(:current_version, :baseline_version).to_a
        drafts = Models::Draft.where(person:, preset: changed).includes(:base_version).index_by(&:preset_id)
        rows = changed.map { |preset|
          Views::Brushes.going_back(preset, person, drafts[preset.id], preset.version_to_go_back_to(to))
        }
        answer({presets: rows})
      end

      post "/api/libraries/:library/reset" do
        said = json.slice("preset_ids", "to")
        changed = -> { Actions::ResetPresets.changed(library, person, said.fetch("to", "baseline")).count }
        answer_for_many("reset", said, count: said["preset_ids"]&.size || changed.call)
      end

      # New settings for many: fitted to a canvas, or copied from another brush. With plan=true nothing is changed:
      # it says what would happen.
      post "/api/libraries/:library/revisions" do
        as, ids = json.values_at("as", "preset_ids")
        rows = Actions::RevisePresets.plan(library: library, person:, ids:, as:, &revision)
        if params["plan"]
          next answer(
            {
              rows: rows.first(MOST_SHOWN).map { |row|
                Views::Brushes.revised(row)
              },
              count: rows.size,
              entry: nil
            }
          )
        end
        entry = Actions::RevisePresets.call(
          library: library, person:, rows:, as:, kind: revision.kind, deed: revision.deed
        )
        answer_entry(entry, 201, rows: [], count: rows.size)
      end

      helpers do
        def preset_here = of_library(Models::Preset.includes(:current_version, :baseline_version))

        # A change belongs to the brush it was made on, and needs only pictures of this library.
        def own(value, preset)
          unless value.id == preset.document_id
            refuse(422, "The document is that of another brush. Nothing was saved.")
          end
          seen(value, preset.library)
        end

        def revision
          @revision ||= case json["change"]
          when "fit"
            Actions::FitCanvas.new(width: json["width"], height: json["height"], share: json["share"])
          when "copy"
            Actions::CopySettings.new(from: preset_from(json["document"], library), groups: json.fetch("groups", []))
          end
        end
      end
    end
  end
end
