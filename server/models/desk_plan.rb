# frozen_string_literal: true

module Fobrel
  module Models
    # A start-up plan as it was sent; it never changes. Its brushes' files are kept under their sums, its parts are
    # pictures that are kept anyway.
    class DeskPlan < Record
      belongs_to :desk
      belongs_to :person, optional: true

      # What an agent compares: the plan, and what somebody decided about files of the desk.
      #
      # @return [String]
      def etag = Core::Sum.of("#{id} #{number} #{created_at.iso8601(6)} #{JSON.generate(desk.left_alone)}")[0, 32]

      # @return [String] the document as JSON
      def written
        RawColumn.get("SELECT document::text FROM desk_plans WHERE id = $1", id).force_encoding(Encoding::UTF_8)
      end

      # @param sum [String]
      # @return [String, nil] the bytes of one of its files
      def self.bytes(sum)
        RawColumn.get("SELECT bytes FROM sent_files WHERE sum = $1", sum) ||
          RawColumn.get("SELECT bytes FROM assets WHERE sha256 = $1", sum)
      end

      # @param sum [String]
      # @param bytes [String]
      def self.keep(sum, bytes)
        binary = ActiveRecord::Relation::QueryAttribute.new("bytes", bytes.b, ActiveModel::Type::Binary.new)
        connection.exec_insert(
          "INSERT INTO sent_files VALUES ($1, $2) ON CONFLICT DO NOTHING",
          "A file",
          [sum, binary]
        )
      end

      # Keeps what the plan's files are; they are fetched by their sums.
      #
      # @param plan [Core::Startup::Plan]
      def keep_files(plan)
        rows = plan.contents.values.uniq.to_h { [Core::Sum.of(_1), _1] }
        connection = self.class.connection
        known = connection.select_values(
          "SELECT sum FROM sent_files WHERE sum = ANY ($1::text[])",
          "Files",
          [list(rows.keys)]
        )
        rows.except(*known).each { |sum, bytes| self.class.keep(sum, bytes) }
        sums = plan.to_h["files"].values.map { _1["sum"] }.uniq
        connection.exec_insert(
          "INSERT INTO desk_plan_files SELECT $1::bigint, unnest($2::text[]) ON CONFLICT DO NOTHING",
          "Files",
          [
            id,
            list(sums)
          ]
        )
      end

      private

      def list(texts) = "{#{texts.join(",")}}"
    end
  end
end
