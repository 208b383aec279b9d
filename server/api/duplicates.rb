# frozen_string_literal: true

module Fobrel
  module Api
    # Brushes that paint the same, or nearly so.
    module Duplicates
      extend Sinatra::Extension

      # Painting what was never painted, and looking closely, take long, so a part is done at a time: the page asks
      # again until nothing is left.
      SECONDS = 3

      get "/api/libraries/:library/duplicates" do
        duplicates = Finding::Duplicates.new(library)
        left = duplicates.prepare(seconds: SECONDS)
        next answer({ready: false, left:, groups: []}) if left.positive?
        groups = duplicates.groups
        presets = library.presets.where(id: groups.flat_map { |group| group[:ids] })
        rows = Views::Rows.of(presets, person).index_by { |row| row["id"] }
        groups = groups.map { |group| {**group.except(:ids), presets: rows.values_at(*group[:ids])} }
        answer({ready: true, left: 0, groups:})
      end

      # One stays, sets and plans point to it, the others are hidden.
      post "/api/libraries/:library/duplicates" do
        keep, ids = json.values_at("keep", "preset_ids")
        answer_entry(Actions::KeepDuplicate.call(library: library, person:, keep:, ids:))
      end
    end
  end
end
