# frozen_string_literal: true

module Fobrel
  module Models
    # One transaction that changed a library's brushes, what they hang on, or where they stand. The database notes
    # them by itself.
    class BrushChange < Record
      # Notes that are kept of each library at the least; the night takes older ones.
      KEPT = 1000
      # The mark to ask with the next time, and the brushes that were changed; nil where any may have been.
      Since = Struct.new(:mark, :preset_ids)

      # @param library_id [Integer]
      # @return [Array<Integer>, nil] another one as soon as anything of that library is committed: how many there are
      #   says it, for transactions end in another order than they begin. None within a transaction that changes it.
      def self.mark(library_id)
        own, *mark = where(library_id:).pick(
          Arel.sql("coalesce(bool_or(txid = txid_current_if_assigned()), false)"),
          Arel.sql("count(*)"),
          Arel.sql("max(txid)"),
          Arel.sql("sum(txid)")
        )
        mark unless own
      end

      # @return [Boolean] whether this transaction changed that library itself: what it sees is not to be kept
      def self.own?(library_id) = where(library_id:).where("txid = txid_current_if_assigned()").exists?

      # @param library_id [Integer]
      # @param mark [Integer, nil] of the time before
      # @return [Since] what was changed since, where a mark is given. Transactions that were under way then are told
      #   again: they end in another order than they begin.
      def self.since(library_id, mark)
        here = where(library_id:, txid: mark..)
        mark_now, any, ids = connection.exec_query(<<~SQL, "Since").cast_values.first
          SELECT txid_snapshot_xmin(txid_current_snapshot()),
            EXISTS (#{here.where(preset_ids: nil).to_sql}),
            ARRAY(#{here.select("DISTINCT unnest(preset_ids)").to_sql})
        SQL
        Since.new(mark_now, any ? nil : ids)
      end

      # @return [Integer] how many older ones were taken away; who has not seen them is told that anything may have
      #   changed
      def self.prune
        Library.ids.sum do |library_id|
          last = where(library_id:).order(txid: :desc).offset(KEPT).pick(:txid) or next 0
          gone = where(library_id:, txid: ..last).delete_all
          upsert({library_id:, preset_ids: nil}, unique_by: %i[library_id txid])
          gone
        end
      end
    end
  end
end
