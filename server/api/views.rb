# frozen_string_literal: true

module Fobrel
  module Api
    # How records look in JSON. Shapes are those of openapi.yaml.
    module Views
      # A tag with how many brushes carry it.
      class Tag
        include Alba::Resource

        attributes :id, :name, :colour, :shape
        attribute(:count) { |tag| params[:counts].fetch(tag.id, 0) }
      end

      # A set with its brushes in order.
      class BrushSet
        include Alba::Resource

        attributes :id, :name
        attribute(:preset_ids) { |set| params[:items].fetch(set.id, []) }
      end

      # A brush as it hangs on the Wall.
      class Preset
        include Alba::Resource

        attributes :id, :name
        attribute(:document_id) { |preset| preset.document_id }
        attribute(:fingerprint) { |preset| preset.current_edition.fingerprint }
        attribute(:edition) { |preset| preset.current_edition.number }
        attribute(:home) { |preset| preset.home_edition.number }
        attribute(:altered) { |preset| preset.changed_from_home? }
        attribute(:draft) { |preset| params[:drafts].include?(preset.id) }
        attribute(:favourite) { |preset| params[:favourites].include?(preset.id) }
        attribute(:locked) { |preset| !preset.locked_by_id.nil? }
        attribute(:size) { |preset| preset.current_edition.document.dig("mark", "size", "base") }
        attribute(:traits) { |preset| Core::Curation::Traits.of(preset.current_edition.value) }
        attribute(:tag_ids) { |preset| params[:tags].fetch(preset.id, []) }
      end

      # An edition, by what it is known by.
      class Edition
        include Alba::Resource

        attributes :number, :fingerprint, :note
        attribute(:name) { |edition| edition.edition_name&.name }
        attribute(:by) { |edition| edition.person&.name }
        attribute(:at) { |edition| edition.created_at.iso8601 }
      end

      # A workplace with its plan and state.
      class Seat
        include Alba::Resource

        attributes :id, :name, :folder, :state, :report
        attribute(:preset_ids) { |seat| seat.preset_ids_in_order }
        attribute(:handed_out_at) { |seat| seat.handed_out_at&.iso8601 }
        attribute(:path) { |seat| "var/seats/#{seat.folder}/startup" }
      end

      # A line of the ledger.
      class Entry
        include Alba::Resource

        attributes :id, :kind, :summary
        attribute(:by) { |entry| entry.person.name }
        attribute(:at) { |entry| entry.created_at.iso8601 }
        attribute(:undone) { |entry| !entry.undone_at.nil? }
        attribute(:undoable) { |entry| entry.undone_at.nil? && Actions::Undo::KINDS.key?(entry.kind) }
      end
    end
  end
end
