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
      #
      # @param tag [Models::Tag]
      # @return [Hash]
      def self.tag(tag, count)
        {**tag.slice(:id, :name, :colour, :shape), synonyms: tag.synonyms.map(&:name).sort, count:}
      end

      # A set with its brushes in order.
      #
      # @param set [Models::BrushSet]
      # @param items [Array<Array>] set, preset and section of each place that is shown
      # @param found [Integer, nil] how many it finds, if it fills itself
      # @return [Hash]
      def self.brush_set(set, items, found)
        sections = items.select { |_, _, section| section }.to_h { |_, id, section| [id.to_s, section] }
        {**set.slice(:id, :name, :query), preset_ids: items.map { _1[1] }, sections:, count: found || items.size}
      end

      # An edition, by what it is known by.
      #
      # @param edition [Models::Edition]
      # @return [Hash]
      def self.edition(edition)
        {
          **edition.slice(:number, :fingerprint, :note),
          name: edition.edition_name&.name,
          by: edition.person&.name,
          at: edition.created_at.iso8601,
          greatest: Core::Stroke::Strip.greatest(edition.value)
        }
      end

      # A workplace with its plan and state.
      #
      # @param seat [Models::Seat]
      # @return [Hash]
      def self.seat(seat)
        {
          **seat.slice(:id, :name, :folder, :report),
          state: seat.state,
          preset_ids: seat.preset_ids_in_order,
          handed_out_at: seat.handed_out_at&.iso8601,
          path: "var/seats/#{seat.folder}/startup"
        }
      end

      # A line of the ledger.
      #
      # @param entry [Models::LedgerEntry]
      # @return [Hash]
      def self.entry(entry)
        {
          **entry.slice(:id, :kind, :summary),
          by: entry.person.name,
          at: entry.created_at.iso8601,
          undone: !entry.undone_at.nil?,
          undoable: entry.undoable?
        }
      end
    end
  end
end
