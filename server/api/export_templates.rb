# frozen_string_literal: true

module Fobrel
  module Api
    # The studio's own text templates.
    module ExportTemplates
      extend Sinatra::Extension

      # Told before anybody meets them.
      LIMITS = {
        kb: Core::Package::ExportTemplate::MOST / 1024,
        mb: Core::Package::ExportTemplate::LENGTH / 1024 / 1024,
        steps: Core::Package::ExportTemplate::STEPS,
        seconds: Core::Package::ExportTemplate::SECONDS
      }.freeze
      # A preview is written of so many brushes at the most, and shows so many files, so far.
      TRIED = 200
      SHOWN = 3
      SHOWN_LENGTH = 20_000

      get "/api/libraries/:library/export-templates" do
        kept = library.export_templates.order(:name).map { |one| export_template_view(one) }
        answer({export_templates: kept, examples: Core::Package::ExportTemplate.examples.map(&:to_h), limits: LIMITS})
      end

      post "/api/libraries/:library/export-templates" do
        said = Core::Package::ExportTemplate[json].to_h.symbolize_keys
        answer(export_template_view(Actions::MakeThing.call(things: library.export_templates, person:, said:)), 201)
      end

      put "/api/export-templates/:id" do
        said = Core::Package::ExportTemplate[json].to_h.symbolize_keys
        answer(
          export_template_view(
            Actions::ChangeGroup.call(
              record: of_library(Models::ExportTemplate),
              person:,
              said:
            )
          )
        )
      end

      delete "/api/export-templates/:id" do
        answer_removed(of_library(Models::ExportTemplate))
      end

      # What an export template that is kept nowhere yet would write of a few brushes.
      post "/api/libraries/:library/export-templates/preview" do
        export_template = Core::Package::ExportTemplate[json["export_template"]]
        presets = library.presets.includes(:current_version).in_order_of(:id, json["preset_ids"].first(TRIED))
        files = Actions::WriteExportTemplate.new(library: library, export_template:, presets:, name: library.name).call
        shown = files.first(SHOWN).map { |name, text| {name:, text: text[0, SHOWN_LENGTH]} }
        answer({count: files.size, unknown: export_template.unknown, files: shown})
      end

      helpers do
        def export_template_view(export_template)
          {id: export_template.id, **export_template.value.to_h.transform_keys(&:to_sym)}
        end
      end
    end
  end
end
