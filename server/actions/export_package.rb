# frozen_string_literal: true

module Fobrel
  module Actions
    # Packs brushes with everything they need, and nothing else.
    class ExportPackage < Action
      # @return [Hash{Integer => Array<Models::Tag>}]
      def self.tags_by_preset(presets)
        Models::Tagging.where(preset: presets).includes(tag: :synonyms).group_by(&:preset_id).transform_values { |list|
          list.map(&:tag).sort_by {
            _1.name.downcase
          }
        }
      end

      # The tags hung on a brush here travel in its own words, which its fingerprint leaves out.
      #
      # @param presets [Array<Models::Preset>]
      # @return [Array<Core::Preset::Preset>] of their current versions
      def self.tagged(presets, tags = tags_by_preset(presets))
        presets.map do |preset|
          value = preset.current_version.value
          Core::Preset::Preset.restore(
            value.to_h.merge(
              "about" => value["about"].merge(
                "tags" => tags.fetch(
                  preset.id,
                  []
                ).map(&:name)
              )
            )
          )
        end
      end

      # @param ids [Array<Integer>] in the order wanted
      # @param sets [Array<Core::Package::Bundle::Group>, nil] nil takes the library's own
      # @param export_templates [Boolean] whether the library's export templates travel along
      # @param backup [Boolean] whether everything else of the library does
      def initialize(
        library:, person:, ids:, name:, version: "1.0.0", licence: "", description: "",
        author: person.name, sets: nil, export_templates: false, backup: false
      )
        @library = library
        @ids = ids
        @words = {name: name.to_s.strip.empty? ? library.name : name.strip, version:, licence:, description:, author:}
        @sets = sets
        @export_templates = export_templates
        @backup = backup
      end

      # @return [String] the ZIP file's bytes
      # @raise [Core::Package::ReadBack::Differs]
      def call
        made = bundle
        Core::Package::Writer.zip(made).tap { Core::Package::ReadBack.check(StringIO.new(_1), made) }
      end

      # @return [Core::Package::Bundle] whose pictures are fetched as they are written
      def bundle
        presets = presets_of(@library, @ids)
        raise Core::Problem, "No brushes selected. Select the brushes to export first." if presets.empty?
        tags = self.class.tags_by_preset(presets)
        items = presets.zip(self.class.tagged(presets, tags)).map { |preset, value|
          Core::Package::Bundle::Item.new(preset: value, version: preset.current_version.number)
        }
        backup = GatherBackup.call(library: @library, presets:) if @backup
        needed = (items.map(&:preset) + (backup ? backup.presets : [])).flat_map(&:needs)
        Core::Package::Bundle.build(
          items:,
          assets: Models::Asset.files(needed),
          backup:,
          sets: @sets || sets(presets),
          tags: used(tags),
          strips: Models::KeptStrip.of_all(presets),
          export_templates: @export_templates ? @library.export_templates.order(:name).map(&:value) : [],
          **@words
        )
      end

      private

      def used(tags)
        list = @backup ? @library.tags.includes(:synonyms).to_a : tags.values.flatten.uniq
        list.sort_by {
          _1.name.downcase
        }.map { |tag|
          Core::Package::Bundle::Tag.new(
            **tag.slice(:name, :colour, :shape).symbolize_keys,
            synonyms: tag.synonyms.map(&:name).sort.presence
          )
        }
      end

      # Each set with those of its brushes that travel, in the set's order. One that fills itself
      # travels only with everything that it could find.
      def sets(presets)
        ids = presets.to_h { [_1.id, _1.document_id] }
        @library.brush_sets.order(:name).filter_map do |set|
          if set.automatic?
            next @backup && Core::Package::Bundle::Group.new(
              name: set.name,
              presets: [],
              query: set.query
            )
          end
          inside = set.preset_ids_in_order.filter_map { ids[_1] }
          sections = set.section_by_preset.transform_keys { ids[_1] }.except(nil)
          if @backup || inside.any?
            Core::Package::Bundle::Group.new(
              name: set.name,
              presets: inside,
              sections: sections.presence
            )
          end
        end
      end
    end
  end
end
