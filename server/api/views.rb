# frozen_string_literal: true

module Fobrel
  module Api
    # How records look in JSON. Shapes are those of openapi.yaml.
    module Views
      # How far a piece of long work is.
      #
      # @param task [Models::Task]
      # @return [Hash]
      def self.task(task)
        {
          id: task.id,
          kind: task.kind,
          state: task.state,
          done: task.done,
          total: task.total,
          message: task.message,
          arrival: task.about["arrival"],
          before: task.before,
          at: task.updated_at.iso8601
        }
      end

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
        attribute(:sections) { |set|
          params[:items].fetch(set.id, []).select {
            _1[2]
          }.to_h { |_, id, section| [id.to_s, section] }
        }
        attribute(:count) { |set| set.standing? ? params[:count].call(set) : params[:items].fetch(set.id, []).size }
      end

      # An edition, by what it is known by.
      class Edition
        include Alba::Resource

        attributes :number, :fingerprint, :note
        attribute(:name) { |edition| edition.edition_name&.name }
        attribute(:by) { |edition| edition.person&.name }
        attribute(:at) { |edition| edition.created_at.iso8601 }
        attribute(:greatest) { |edition| Core::Stroke::Strip.greatest(edition.value) }
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
        attribute(:undoable, &:undoable?)
      end
    end
  end
end
