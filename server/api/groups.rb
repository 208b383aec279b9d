# frozen_string_literal: true

module Fobrel
  module Api
    # Tags, families, labels and sets.
    class Groups < Base
      get "/api/libraries/:library/tags" do
        found = library.tags.includes(:synonyms).order(:name)
        counts = Models::Tagging.where(tag: found).group(:tag_id).count
        answer({tags: found.map { |tag| Views.tag(tag, counts.fetch(tag.id, 0)) }})
      end

      post "/api/libraries/:library/taggings" do
        data = json
        entry = Actions::TagPresets.call(
          library: library,
          person:,
          name: text(data, "tag"),
          ids: ids(data),
          on: data.fetch("on", true) == true
        )
        answer({entry: Views.entry(entry)})
      end

      put "/api/tags/:id" do
        found = tag
        data = json
        changed = Actions::ChangeTag.call(
          tag: found,
          name: text(data, "name"),
          colour: text(data, "colour"),
          shape: text(data, "shape"),
          synonyms: Array(data["synonyms"]).grep(String).first(20)
        )
        answer(Views.tag(changed.reload, changed.taggings.count))
      end

      post "/api/tags/:id/merge" do
        from = tag
        answer(
          {
            entry: Views.entry(
              Actions::MergeTags.call(
                person:,
                from:,
                into: from.library.tags.find(number(json["into"]))
              )
            )
          }
        )
      end

      # Families and labels differ in nothing but that families have parents.
      {
        "families" => [Models::Family, %w[name parent_id position]],
        "labels" => [Models::Label, %w[name colour shape position]]
      }.each do |plural, (model, fields)|
        post "/api/libraries/:library/#{plural}" do
          data = plain_fields(json.slice(*fields))
          found = library
          check_parent(found, data)
          look = (model == Models::Label) ? Models::Looks.next(found.labels.count) : {}
          answer(
            plain(
              model.create!(
                library: found,
                position: model.where(library: found).count,
                **look,
                **data.symbolize_keys
              )
            ),
            201
          )
        end

        put "/api/#{plural}/:id" do
          data = plain_fields(json.slice(*fields))
          found = of_library(model)
          check_parent(found.library, data)
          answer(plain(Actions::ChangeGroup.call(record: found, changes: data)))
        end
      end

      # All of these are removed in one way, and come back in one.
      {
        "sets" => Models::BrushSet,
        "families" => Models::Family,
        "labels" => Models::Label,
        "tags" => Models::Tag
      }.each do |plural, model|
        delete "/api/#{plural}/:id" do
          removed(of_library(model))
        end
      end

      get "/api/libraries/:library/order" do
        listed = ->(records) { records.order(:position, :name).map { plain(_1) } }
        answer({families: listed[library.families], labels: listed[library.labels]})
      end

      # Many brushes into a family, or to a work state.
      post "/api/libraries/:library/placings" do
        data = json
        found = library
        kind = Actions::SortPresets::KINDS.key?(data["kind"]) ? data["kind"] : raise(
          Halt.new(
            400,
            "kind must be family or label."
          )
        )
        place = data["place"] && {
          "family" => found.families,
          "label" => found.labels
        }.fetch(kind).find(number(data["place"]))
        answer(
          {
            entry: Views.entry(
              Actions::SortPresets.call(
                library: found,
                person:,
                ids: ids(data),
                kind:,
                place:
              )
            )
          }
        )
      end

      get "/api/libraries/:library/sets" do
        answer({sets: sets(library.brush_sets.order(:name).to_a)})
      end

      post "/api/libraries/:library/sets" do
        data = json
        found = library
        made = Actions::MakeSet.call(
          library: found,
          person:,
          name: text(data, "name"),
          query: data["query"] && text(data, "query"),
          ids: (ids(data) if data.key?("preset_ids")),
          sections: sections(data)
        )
        answer(sets([made]).first, 201)
      end

      put "/api/sets/:id" do
        data = json
        set = of_library(Models::BrushSet)
        entry = Actions::FillSet.call(
          set:,
          person:,
          ids: ids(data),
          before: data["before"] && ids(data, "before"),
          sections: sections(data)
        )
        answer({set: sets([set]).first, entry: Views.entry(entry)})
      end

      # A part of a set becomes a set of its own.
      post "/api/sets/:id/split" do
        data = json
        entry = Actions::SplitSet.call(
          set: of_library(Models::BrushSet),
          person:,
          name: text(data, "name"),
          ids: ids(data),
          before: ids(data, "before")
        )
        answer(
          {
            set: sets([Models::BrushSet.find(entry.what_changed.ids_that_came("brush_sets").first)]).first,
            entry: Views.entry(entry)
          },
          201
        )
      end

      # What it is called, and what a standing set asks for.
      put "/api/sets/:id/name" do
        data = json
        set = of_library(Models::BrushSet)
        changes = {name: text(data, "name")}.merge((set.standing? && data["query"]) ? {query: text(data, "query")} : {})
        answer(sets([Actions::ChangeGroup.call(record: set, changes:)]).first)
      end

      helpers do
        def tag = of_library(Models::Tag)

        # A name, a look, a place in the list: nothing else fits its column.
        def plain_fields(data)
          data.each do |key, value|
            fits = %w[parent_id position].include?(key) ? value.nil? || value.is_a?(Integer) : value.is_a?(String)
            unless fits
              raise Halt.new(
                400,
                "#{key} must be a #{%w[parent_id position].include?(key) ? "number" : "text"}."
              )
            end
          end
        end

        def check_parent(library, data) = data["parent_id"] && library.families.find(number(data["parent_id"]))

        def plain(record) = record.attributes.slice("id", "name", "parent_id", "colour", "shape", "position")

        def sets(list)
          shown = Models::SetItem.where(brush_set: list).joins(:preset).merge(Models::Preset.shown)
          items = shown.order(:position).pluck(:brush_set_id, :preset_id, :section).group_by(&:first)
          list.map { |set| Views.brush_set(set, items.fetch(set.id, []), set.standing? ? standing(set) : nil) }
        end

        def standing(set) = set.search(person).presets.count
      end
    end
  end
end
