# frozen_string_literal: true

module Fobrel
  module Api
    # Categories, and the statuses of brushes: a library's own order.
    module Categories
      extend Sinatra::Extension

      get "/api/libraries/:library/order" do
        listed = ->(groups) { groups.order(:position, :name).map { |group| Views.group(group) } }
        answer({categories: listed[library.categories], statuses: listed[library.statuses]})
      end

      # Many brushes into a category, or to a status.
      post "/api/libraries/:library/placings" do
        answer_for_many("place", json.slice("kind", "preset_ids", "place"))
      end

      # They differ in nothing but that categories have parents and statuses a look.
      {"categories" => Models::Category, "statuses" => Models::Status}.each do |plural, model|
        post "/api/libraries/:library/#{plural}" do
          groups = library.public_send(plural.underscore)
          look = (model == Models::Status) ? Models::Looks.next(groups.count) : {}
          said = {position: groups.count, **look, **group_said(model, library)}
          answer(Views.group(Actions::MakeThing.call(things: groups, person:, said:)), 201)
        end

        put "/api/#{plural}/:id" do
          record = of_library(model)
          said = group_said(model, record.library)
          answer(Views.group(Actions::ChangeGroup.call(record:, person:, said:)))
        end

        delete "/api/#{plural}/:id" do
          answer_removed(of_library(model))
        end
      end

      helpers do
        def group_said(model, library)
          said = json.slice("name", "position", *((model == Models::Category) ? %w[parent_id] : %w[colour shape]))
          library.categories.find(said["parent_id"]) if said["parent_id"]
          said.symbolize_keys
        end
      end
    end
  end
end
