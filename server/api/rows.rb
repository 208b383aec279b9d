# frozen_string_literal: true

module Fobrel
  module Api
    # Brushes as rows of the Wall, for every resource that lists some.
    module Rows
      # @param presets [Enumerable<Models::Preset>]
      # @return [Array<Hash>] as openapi.yaml describes Preset
      def rows(presets)
        presets = presets.to_a
        tags = Models::Tagging.where(preset: presets).pluck(:preset_id, :tag_id).group_by(&:first).transform_values { _1.map(&:last) }
        drafts = Models::Draft.where(person:, preset: presets).pluck(:preset_id).to_set
        numbers = Models::Edition.where(id: presets.flat_map { [_1.current_edition_id, _1.home_edition_id] }).pluck(:id, :number).to_h
        favourites = person.favourites.where(preset: presets).pluck(:preset_id).to_set
        Views::Preset.new(presets, params: {tags:, drafts:, favourites:, numbers:}).to_h
      end
    end
  end
end
