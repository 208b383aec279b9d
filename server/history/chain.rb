# frozen_string_literal: true

module Fobrel
  module History
    # Finds what was changed in the history behind the application's back: computes each sum again from the words of its
    # entry and the sum of the one before.
    #
    #   Chain.new(library).check   # => {entries: 812, head: "5f…", broken: []}
    class Chain
      # Entries read at once.
      STEP = 2000
      # What is wrong with an entry, in words.
      WHY = {
        words: "its words are not those that were written",
        gone: "one before it is missing, or was put in",
        undo: "what its undo keeps is not what was written"
      }.freeze
      private_constant :STEP

      # @param library [Models::Library, nil] nil for what is of no library: sign-ins and tokens
      def initialize(library)
        @entries = Models::HistoryEntry.where(library_id: library&.id)
      end

      # @param known [String, nil] a head that was noted before: the sum of the newest entry then
      # @return [Hash] how many entries; the head; of each broken one its place, id and why; and whether the head that
      #   was known is still among them
      def check(known: nil)
        @broken = []
        @keeps, @rebased = {}, {}
        @sum, @place, count = "", 0, 0
        found = known.nil?
        each do |row|
          look(row)
          found ||= row["sum"] == known
          @sum, @place = row.values_at("sum", "place")
          count += 1
        end
        {entries: count, head: @sum, broken:, known: found}
      end

      # @param ids [Array<Integer>] of entries of which an undo has put right what they keep, see Rebase
      # @return [Array<String>] what is written of it in the entry of that undo, and with it in the chain
      def self.rebased(ids)
        sum = Arel.sql("encode(sha256(convert_to(undo::text, 'UTF8')), 'hex')")
        Models::HistoryEntry.where(id: ids).order(:id).pluck(:id, sum).map { |id, now| "history_entries:#{id}=#{now}" }
      end

      private

      COLUMNS = <<~SQL
        id, place, library_id, person_id, kind, summary, via, array_to_string(about, ' ') AS about, changes_sum, sum,
        to_char(created_at, 'YYYY-MM-DD"T"HH24:MI:SS.US') AS at,
        undo = '{"closed": true}' AS closed, encode(sha256(convert_to(undo::text, 'UTF8')), 'hex') AS undo_sum
      SQL
      REBASED = /\bhistory_entries:(\d+)=(\h{64})/
      PARTS = %w[place library_id person_id kind summary via at about changes_sum].freeze
      private_constant :COLUMNS, :REBASED, :PARTS

      def each
        last = 0
        loop do
          sql = @entries.where("place > ?", last).order(:place).limit(STEP).select(Arel.sql(COLUMNS)).to_sql
          rows = Models::Record.connection.select_all(sql).to_a
          rows.each { |row| yield row }
          break if rows.size < STEP
          last = rows.last["place"]
        end
      end

      def look(row)
        why = if row["place"] != @place + 1 then :gone
        elsif Core::Sum.of(written(row)) != row["sum"] then :words
        end
        @broken << {place: row["place"], id: row["id"], why: WHY.fetch(why)} if why
        @keeps[row["id"]] = row.values_at("place", "undo_sum", "changes_sum") unless why || row["closed"]
        row["about"].scan(REBASED) { |id, sum| @rebased[id.to_i] = sum }
      end

      # What an undo keeps may be another since, where a later entry says so.
      def broken
        changed = @keeps.reject { |id, (_, now, written)| now == @rebased.fetch(id, written) }
        @broken.concat(changed.map { |id, (place, *)| {place:, id:, why: WHY.fetch(:undo)} }).sort_by { _1[:place] }
      end

      # As the database writes it, each part with its length before it.
      def written(row) = [@sum, *row.values_at(*PARTS)].map { |part| "#{part.to_s.bytesize}:#{part}" }.join
    end
  end
end
