# frozen_string_literal: true

module Fobrel
  module Api
    # How records look in JSON. Shapes are those of openapi.yaml.
    module Views
      # How far a piece of long work is.
      #
      # @param task [Models::Task]
      # @return [Hash]
      def self.task(task) = {id: task.id, kind: task.kind, state: task.state, done: task.done, total: task.total, message: task.message, arrival: task.about["arrival"], at: task.updated_at.iso8601}

      # A tag with how many brushes carry it.
      class Tag
        include Alba::Resource

        attributes :id, :name, :colour, :shape
        attribute(:synonyms) { |tag| tag.synonyms.map(&:name).sort }
        attribute(:count) { |tag| params[:counts].fetch(tag.id, 0) }
      end

      # A set with its brushes in order.
      class BrushSet
        include Alba::Resource

        attributes :id, :name, :query
        attribute(:preset_ids) { |set| params[:items].fetch(set.id, []).map { _1[1] } }
        attribute(:sections) { |set| params[:items].fetch(set.id, []).select { _1[2] }.to_h { |_, id, section| [id.to_s, section] } }
        attribute(:count) { |set| set.standing? ? params[:count].call(set) : params[:items].fetch(set.id, []).size }
      end

      # A brush as it hangs on the Wall.
      class Preset
        include Alba::Resource

        attributes :id, :name, :document_id, :fingerprint, :altered, :size, :traits, :author, :licence, :family_id, :label_id
        attribute(:edition) { |preset| params[:numbers].fetch(preset.current_edition_id) }
        attribute(:home) { |preset| params[:numbers].fetch(preset.home_edition_id) }
        attribute(:notes) { |preset| preset.notes.truncate(160) }
        attribute(:changed_at) { |preset| preset.changed_at&.iso8601 }
        attribute(:draft) { |preset| params[:drafts].include?(preset.id) }
        attribute(:favourite) { |preset| params[:favourites].include?(preset.id) }
        attribute(:locked) { |preset| !preset.locked_by_id.nil? }
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
