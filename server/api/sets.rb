# frozen_string_literal: true

module Fobrel
  module Api
    # Sets: brushes in an order made by hand, or filled by a search.
    module Sets
      extend Sinatra::Extension

      get "/api/libraries/:library/sets" do
        answer({sets: Views.sets(library.brush_sets.order(:name).to_a, person)})
      end

      post "/api/libraries/:library/sets" do
        name, query, ids = json.values_at("name", "query", "preset_ids")
        answer(
          set_view(
            Actions::MakeSet.call(
              library: library,
              person:,
              name:,
              query:,
              ids:,
              sections: sections_sent
            )
          ),
          201
        )
      end

      put "/api/sets/:id" do
        set = of_library(Models::BrushSet)
        ids, before = json.values_at("preset_ids", "before")
        entry = Actions::FillSet.call(set:, person:, ids:, before:, sections: sections_sent)
        answer_entry(entry, set: set_view(set))
      end

      # A part of a set becomes a set of its own.
      post "/api/sets/:id/split" do
        name, ids, before = json.values_at("name", "preset_ids", "before")
        entry = Actions::SplitSet.call(set: of_library(Models::BrushSet), person:, name:, ids:, before:)
        made = Models::BrushSet.find(entry.what_changed.ids_that_came("brush_sets").first)
        answer_entry(entry, 201, set: set_view(made))
      end

      # What it is called, and what a set that fills itself asks for.
      put "/api/sets/:id/name" do
        set = of_library(Models::BrushSet)
        said = json.slice("name", *(["query"] if set.automatic? && json["query"])).symbolize_keys
        answer(set_view(Actions::ChangeGroup.call(record: set, person:, said:)))
      end

      delete "/api/sets/:id" do
        answer_removed(of_library(Models::BrushSet))
      end

      helpers do
        def set_view(set) = Views.sets([set], person).first
      end
    end
  end
end
