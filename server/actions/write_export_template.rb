# frozen_string_literal: true

module Fobrel
  module Actions
    # What an export template makes of brushes, with what is known of them here.
    class WriteExportTemplate < Action
      # @param export_template [Core::Package::ExportTemplate]
      # @param presets [Array<Models::Preset>] in order
      # @param name [String] of the whole
      def initialize(library:, export_template:, presets:, name:)
        @library = library
        @export_template = export_template
        @presets = presets
        @name = name
      end

      # @return [Hash{String => String}] text by file name
      # @raise [Core::Package::ExportTemplate::Invalid]
      def call
        @export_template.write(
          @presets.map {
            _1.current_version.value
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
        categories = @library.categories.pluck(:id, :name).to_h
        @presets.to_h { |preset|
          [
            preset.document_id,
            {
              "version" => preset.current_version.number,
              "category" => categories[preset.category_id].to_s,
              "tags" => tags.fetch(preset.id, []).map(&:last)
            }
          ]
        }
      end
    end
  end
end
