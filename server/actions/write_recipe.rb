# frozen_string_literal: true

module Fobrel
  module Actions
    # What a recipe makes of brushes, with what is known of them here.
    class WriteRecipe < Action
      # @param recipe [Core::Package::Recipe]
      # @param presets [Array<Models::Preset>] in order
      # @param name [String] of the whole
      def initialize(library:, recipe:, presets:, name:)
        @library = library
        @recipe = recipe
        @presets = presets
        @name = name
      end

      # @return [Hash{String => String}] text by file name
      # @raise [Core::Package::Recipe::Invalid]
      def call
        @recipe.write(
          @presets.map {
            _1.current_edition.value
          },
          words: {"name" => @name, "library" => @library.name, "author" => "", "count" => @presets.size},
          facts:
        )
      end

      private

      def facts
        tags = Models::Tagging.where(preset: @presets).joins(:tag).order("tags.name").pluck(
          :preset_id,
          "tags.name"
        ).group_by(&:first)
        families = @library.families.pluck(:id, :name).to_h
        @presets.to_h { |preset|
          [
            preset.document_id,
            {
              "edition" => preset.current_edition.number,
              "family" => families[preset.family_id].to_s,
              "tags" => tags.fetch(preset.id, []).map(&:last)
            }
          ]
        }
      end
    end
  end
end
