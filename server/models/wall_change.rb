# frozen_string_literal: true

module Fobrel
  module Models
    # One transaction that changed a library's brushes or their tags. The database notes them by itself.
    class WallChange < Record
      # Notes that are kept of each library at the least; the night takes older ones.
      KEPT = 1000

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

      # @return [Integer] how many older ones were taken away
      def self.prune
        Library.ids.sum do |library_id|
          last = where(library_id:).order(txid: :desc).offset(KEPT).pick(:txid)
          last ? where(library_id:, txid: ..last).delete_all : 0
        end
      end
    end
  end
end
