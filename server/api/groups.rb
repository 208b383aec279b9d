# frozen_string_literal: true

module Fobrel
  module Api
    # Tags and sets.
    class Groups < Base
      get "/api/libraries/:library/tags" do
        found = library.tags.order(:name)
        counts = Models::Tagging.where(tag: found).group(:tag_id).count
        answer({tags: Views::Tag.new(found.to_a, params: {counts:}).to_h})
      end

      post "/api/libraries/:library/taggings" do
        data = json
        entry = Actions::TagPresets.call(library: library(:edit), person:, name: text(data, "tag"), ids: ids(data), on: data.fetch("on", true) == true)
        answer({entry: Views::Entry.new(entry).to_h})
      end

      get "/api/libraries/:library/sets" do
        answer({sets: sets(library.brush_sets.order(:name).to_a)})
      end

      post "/api/libraries/:library/sets" do
        data = json
        made = library(:edit).brush_sets.create!(name: text(data, "name"))
        Actions::FillSet.call(set: made, person:, ids: ids(data)) if data.key?("preset_ids")
        answer(sets([made]).first, 201)
      end

      put "/api/sets/:id" do
        data = json
        set = of_library(Models::BrushSet, :edit)
        entry = Actions::FillSet.call(set:, person:, ids: ids(data), before: data["before"] && ids(data, "before"))
        answer({set: sets([set]).first, entry: Views::Entry.new(entry).to_h})
      end

      helpers do
        def sets(list)
          items = Models::SetItem.where(brush_set: list).order(:position).pluck(:brush_set_id, :preset_id)
            .group_by(&:first).transform_values { _1.map(&:last) }
          Views::BrushSet.new(list, params: {items:}).to_h
        end
      end
    end
  end
end
