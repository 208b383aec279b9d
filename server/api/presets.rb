# frozen_string_literal: true

module Fobrel
  module Api
    # Brushes: the Wall's list, one brush with its editions, drafts, saving, going back.
    class Presets < Base
      get "/api/libraries/:library/presets" do
        answer({presets: rows(library.presets.includes(:current_edition, :home_edition).in_order)})
      end

      # What would go back if everything changed went back.
      get "/api/libraries/:library/changed" do
        changed = Actions::ResetPresets.changed(library(:edit), person).includes(:current_edition, :home_edition).to_a
        drafts = Models::Draft.where(person:, preset: changed).index_by(&:preset_id)
        answer({presets: changed.map do |preset|
          {id: preset.id, name: preset.name, draft: drafts.key?(preset.id), home: preset.home_edition.number,
           before: (drafts[preset.id] || preset.current_edition).fingerprint, after: preset.home_edition.fingerprint}
        end})
      end

      post "/api/libraries/:library/reset" do
        data = json
        entry = Actions::ResetPresets.call(library: library(:edit), person:, ids: data.key?("preset_ids") ? ids(data) : nil)
        answer({entry: Views::Entry.new(entry).to_h})
      end

      get "/api/presets/:id" do
        answer(detail(preset(:look)))
      end

      put "/api/presets/:id/draft" do
        found = preset(:edit)
        draft = Actions::KeepDraft.call(preset: found, person:, value: document(json, found.library))
        answer({draft: !draft.nil?})
      end

      delete "/api/presets/:id/draft" do
        preset(:edit).drafts.where(person:).destroy_all
        answer({draft: false})
      end

      post "/api/presets/:id/editions" do
        data = json
        found = preset(:edit)
        value = document(data, found.library)
        raise Halt.new(422, "The document is that of another brush. Nothing was saved.") unless value.id == found.document_id
        Actions::SaveEdition.call(preset: found, person:, value:, base: data["base"], note: text(data, "note", ""))
        answer(detail(found.reload), 201)
      end

      post "/api/presets/:id/variations" do
        found = preset(:edit)
        answer(detail(Actions::SaveVariation.call(preset: found, person:, value: document(json, found.library))), 201)
      end

      helpers do
        def preset(deed) = of_library(Models::Preset.includes(:current_edition, :home_edition), deed)

        def rows(presets)
          presets = presets.to_a
          tags = Models::Tagging.where(preset: presets).pluck(:preset_id, :tag_id).group_by(&:first).transform_values { _1.map(&:last) }
          drafts = Models::Draft.where(person:, preset: presets).pluck(:preset_id).to_set
          Views::Preset.new(presets, params: {tags:, drafts:}).to_h
        end

        def detail(preset)
          draft = preset.drafts.find_by(person:)
          current = preset.current_edition
          {preset: rows([preset]).first, library: preset.library_id, next_name: Core::Curation::Numbering.next_name(preset.name, preset.library.preset_names),
           document: Core::Preset::Schema.fill(current.document),
           home_document: Core::Preset::Schema.fill(preset.home_edition.document),
           draft: draft && {document: Core::Preset::Schema.fill(draft.document), fingerprint: draft.fingerprint,
                            base: draft.base_edition.number, at: draft.updated_at.iso8601},
           editions: Views::Edition.new(preset.editions.includes(:person).reverse).to_h,
           sets: preset.brush_sets.order(:name).pluck(:name), seats: preset.seats.order(:name).pluck(:name),
           needs: current.value.needs}
        end
      end
    end
  end
end
