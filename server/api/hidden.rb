# frozen_string_literal: true

module Fobrel
  module Api
    # Hidden brushes: those that nobody needs at the moment, and how they are restored.
    module Hidden
      extend Sinatra::Extension

      get "/api/libraries/:library/hidden" do
        hidden = library.presets.hidden.includes(:hidden_by).order(hidden_at: :desc).to_a
        days = Reports::Storage.new(library).days["hidden"]
        used = Finding::Uses.keeping(library, hidden.map(&:id))
        rows = Views::Rows.of(hidden, person).zip(hidden).map { |row, preset|
          goes_at = (preset.hidden_at + days.days).iso8601 if days && used[preset.id].empty?
          {**row, by: preset.hidden_by&.name, at: preset.hidden_at.iso8601, goes_at:}
        }
        answer({presets: rows, days:})
      end

      # Asked before brushes are hidden, or changed for everybody.
      post "/api/libraries/:library/uses" do
        answer({uses: Finding::Uses.of(library, json["preset_ids"])})
      end

      # Hide brushes, or restore them.
      post "/api/libraries/:library/hidings" do
        answer_for_many(json.fetch("hidden", true) ? "hide" : "unhide", json.slice("preset_ids"))
      end

      # For good.
      delete "/api/libraries/:library/hidden" do
        answer_for_many("destroy", json.slice("preset_ids"))
      end
    end
  end
end
