# frozen_string_literal: true

module Fobrel
  module Actions
    # Packs brushes with everything they need, and nothing else.
    class ExportPackage < Action
      # @param ids [Array<Integer>] in the order wanted
      # @param sets [Array<Core::Package::Bundle::Group>, nil] nil takes the library's own
      # @param recipes [Boolean] whether the library's recipes travel along
      def initialize(library:, person:, ids:, name:, version: "1.0.0", licence: "", description: "", author: person.name, sets: nil, recipes: false)
        @library = library
        @ids = ids
        @words = {name: name.to_s.strip.empty? ? library.name : name.strip, version:, licence:, description:, author:}
        @sets = sets
        @recipes = recipes
      end

      # @return [String] the ZIP file's bytes
      def call = Core::Package::Writer.zip(bundle)

      # @return [Core::Package::Bundle] whose pictures are fetched as they are written
      def bundle
        presets = presets_of(@library, @ids)
        raise Core::Problem, "Nothing is picked. Pick the brushes to export first." if presets.empty?
        tags = tags_by_preset(presets)
        items = presets.map { |preset| Core::Package::Bundle::Item.new(preset: tagged(preset, tags), edition: preset.current_edition.number) }
        Core::Package::Bundle.build(items:, assets: Models::Asset.files(items.flat_map { _1.preset.needs }), sets: @sets || sets(presets), tags: used(tags),
          strips: Models::Strip.of_all(presets), recipes: @recipes ? @library.recipes.order(:name).map(&:value) : [], **@words)
      end

      private

      def tags_by_preset(presets)
        Models::Tagging.where(preset: presets).includes(:tag).group_by(&:preset_id).transform_values { |list| list.map(&:tag).sort_by { _1.name.downcase } }
      end

      # The tags hung on a brush here travel in its own words, which its fingerprint leaves out.
      def tagged(preset, tags)
        value = preset.current_edition.value
        Core::Preset::Preset.restore(value.to_h.merge("about" => value["about"].merge("tags" => tags.fetch(preset.id, []).map(&:name))))
      end

      def used(tags)
        tags.values.flatten.uniq.sort_by { _1.name.downcase }.map { Core::Package::Bundle::Tag.new(name: _1.name, colour: _1.colour, shape: _1.shape) }
      end

      # Each set with those of its brushes that travel, in the set's order.
      def sets(presets)
        ids = presets.to_h { [_1.id, _1.document_id] }
        @library.brush_sets.where(query: nil).order(:name).filter_map do |set|
          inside = set.preset_ids_in_order.filter_map { ids[_1] }
          Core::Package::Bundle::Group.new(name: set.name, presets: inside) if inside.any?
        end
      end
    end
  end
end
