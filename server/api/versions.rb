# frozen_string_literal: true

module Fobrel
  module Api
    # Versions of a brush: saving one, or a variation; naming, merging, going back, setting the baseline.
    module Versions
      extend Sinatra::Extension

      post "/api/presets/:id/versions" do
        preset = preset_here
        Actions::SaveVersion.call(
          preset:,
          person:,
          kept: json["kept"],
          base: json["base"],
          note: json.fetch("note", ""),
          choices: json["choices"],
          **captured
        )
        answer(Views::Brushes.detail(preset.reload, person), 201)
      end

      post "/api/presets/:id/variations" do
        preset = preset_here
        made = Actions::SaveVariation.call(
          preset:,
          person:,
          kept: json["kept"],
          name: json.fetch("name", ""),
          places: json.fetch("places", []),
          order: json.slice("category", "notes", "tags"),
          **captured
        )
        Actions::KeepFavourite.call(preset: made, person:, on: true) if json["favourite"]
        answer(Views::Brushes.detail(made, person), 201)
      end

      # One version with its settings.
      get "/api/presets/:id/versions/:number" do |_, number|
        answer(Views::Brushes.version(preset_here.versions.find_by!(number:)))
      end

      put "/api/presets/:id/versions/:number" do |_, number|
        preset = preset_here
        said = json.slice("name", "note").symbolize_keys
        Actions::DescribeVersion.call(preset:, person:, number: Integer(number, 10), **said)
        answer(Views::Brushes.detail(preset.reload, person))
      end

      # Two people's changes brought together against the version both began with.
      post "/api/presets/:id/merge" do
        preset = preset_here
        draft = preset.drafts.find_by(person:)
        refuse(422, "You have no draft here, so there is nothing to merge.") unless draft
        answer(Views::Brushes.merge(draft, json.fetch("choices", {})))
      end

      post "/api/presets/:id/restore" do
        answer_entry(Actions::RestoreVersion.call(preset: preset_here, person:, number: json["number"]))
      end

      put "/api/presets/:id/baseline" do
        answer_entry(Actions::SetBaseline.call(preset: preset_here, person:, number: json["number"]))
      end

      helpers do
        # What of the moment's state is saved along; all of it where nothing is said.
        def captured = json.key?("capture") ? {capture: json["capture"]} : {}
      end
    end
  end
end
