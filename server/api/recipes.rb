# frozen_string_literal: true

module Fobrel
  module Api
    # The studio's own text templates.
    module Recipes
      extend Sinatra::Extension

      # Told before anybody meets them.
      LIMITS = {
        kb: Core::Package::Recipe::MOST / 1024,
        mb: Core::Package::Recipe::LENGTH / 1024 / 1024,
        steps: Core::Package::Recipe::STEPS,
        seconds: Core::Package::Recipe::SECONDS
      }.freeze
      # A preview is written of so many brushes at the most, and shows so many files, so far.
      TRIED = 200
      SHOWN = 3
      SHOWN_LENGTH = 20_000

      get "/api/libraries/:library/recipes" do
        kept = library.recipes.order(:name).map { |one| recipe_view(one) }
        answer({recipes: kept, examples: Core::Package::Recipe.examples.map(&:to_h), limits: LIMITS})
      end

      post "/api/libraries/:library/recipes" do
        said = Core::Package::Recipe[json].to_h.symbolize_keys
        answer(recipe_view(Actions::MakeThing.call(things: library.recipes, person:, said:)), 201)
      end

      put "/api/recipes/:id" do
        said = Core::Package::Recipe[json].to_h.symbolize_keys
        answer(recipe_view(Actions::ChangeGroup.call(record: of_library(Models::Recipe), person:, said:)))
      end

      delete "/api/recipes/:id" do
        answer_removed(of_library(Models::Recipe))
      end

      # What a recipe that is kept nowhere yet would write of a few brushes.
      post "/api/libraries/:library/recipes/preview" do
        recipe = Core::Package::Recipe[json["recipe"]]
        presets = library.presets.includes(:current_edition).in_order_of(:id, json["preset_ids"].first(TRIED))
        files = Actions::WriteRecipe.new(library: library, recipe:, presets:, name: library.name).call
        shown = files.first(SHOWN).map { |name, text| {name:, text: text[0, SHOWN_LENGTH]} }
        answer({count: files.size, unknown: recipe.unknown, files: shown})
      end

      helpers do
        def recipe_view(recipe) = {id: recipe.id, **recipe.value.to_h.transform_keys(&:to_sym)}
      end
    end
  end
end
