# frozen_string_literal: true

module Fobrel
  module Api
    # The Attic: where brushes go that nobody needs at the moment, and from where they come back.
    module Attic
      extend Sinatra::Extension

      get "/api/libraries/:library/attic" do
        hidden = library.presets.hidden.includes(:hidden_by).order(hidden_at: :desc).to_a
        rows = Views::Rows.of(hidden, person).zip(hidden).map { |row, preset|
          {**row, by: preset.hidden_by&.name, at: preset.hidden_at.iso8601}
        }
        answer({presets: rows})
      end

      # Asked before brushes are hidden, or changed for everybody.
      post "/api/libraries/:library/uses" do
        answer({uses: Finding::Uses.of(library, json["preset_ids"])})
      end

      # Into the Attic, or back.
      post "/api/libraries/:library/hidings" do
        deed = json.fetch("hidden", true) ? Actions::HidePresets : Actions::BringBackPresets
        answer_entry(deed.call(library: library, person:, ids: json["preset_ids"]))
      end

      # For good.
      delete "/api/libraries/:library/attic" do
        answer_entry(Actions::DestroyPresets.call(library: library, person:, ids: json["preset_ids"]))
      end
    end
  end
end
