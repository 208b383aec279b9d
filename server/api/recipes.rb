# frozen_string_literal: true

module Fobrel
  module Api
    # The studio's own text templates.
    class Recipes < Base
      # Told before anybody meets them.
      LIMITS = {
        kb: Core::Package::Recipe::MOST / 1024,
        mb: Core::Package::Recipe::LENGTH / 1024 / 1024,
        steps: Core::Package::Recipe::STEPS,
        seconds: Core::Package::Recipe::SECONDS
      }.freeze
      SHOWN = 3
      SHOWN_LENGTH = 20_000

      get "/api/libraries/:library/recipes" do
        answer(
          {
            recipes: library.recipes.order(:name).map {
              view(_1)
            },
            examples: Core::Package::Recipe.examples.map(&:to_h),
            limits: LIMITS
          }
        )
      end

      post "/api/libraries/:library/recipes" do
        found = library
        answer(view(found.recipes.create!(recipe.to_h)), 201)
      end

      put "/api/recipes/:id" do
        found = of_library(Models::Recipe)
        found.update!(recipe.to_h)
        answer(view(found))
      end

      delete "/api/recipes/:id" do
        removed(of_library(Models::Recipe))
      end

      # What a recipe that is kept nowhere yet would write of a few brushes.
      post "/api/libraries/:library/recipes/preview" do
        found = library
        list = ids(json).first(200)
        presets = found.presets.where(id: list).includes(:current_edition).index_by(&:id).values_at(*list).compact
        files = Actions::WriteRecipe.new(library: found, recipe:, presets:, name: found.name).call
        answer(
          {
            count: files.size,
            unknown: recipe.unknown,
            files: files.first(SHOWN).map { |name, text|
              {name:, text: text[0, SHOWN_LENGTH]}
            }
          }
        )
      end

      helpers do
        def recipe
          said = (@body ||= json).fetch("recipe", @body)
          said.is_a?(Hash) ? Core::Package::Recipe[said] : raise(Halt.new(400, "recipe must be an object."))
        end

        def json = @body ||= super

        def view(recipe) = {id: recipe.id, **recipe.value.to_h.transform_keys(&:to_sym)}
      end
    end
  end
end
