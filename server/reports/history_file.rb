# frozen_string_literal: true

require "csv"

module Fobrel
  module Reports
    # Entries of the history as a file, written piece by piece as it is read: the oldest first.
    class HistoryFile
      COLUMNS = %w[place at by via kind summary undone about sum].freeze

      # @param entries [Finding::Entries]
      # @param kind [String] "csv" or "jsonl"
      def initialize(entries, kind)
        @entries = entries
        @kind = kind
      end

      # It is read when the request itself is over, so it has a connection for that long.
      #
      # @yieldparam piece [String]
      def each
        Models::Record.connection_pool.with_connection do
          yield CSV.generate_line(COLUMNS) if @kind == "csv"
          @entries.each { |entry| yield line(entry) }
        end
      end

      private

      def line(entry)
        row = {
          "place" => entry.place,
          "at" => entry.created_at.utc.iso8601(6),
          "by" => entry.person.name,
          "via" => entry.via,
          "kind" => entry.kind,
          "summary" => entry.summary,
          "undone" => entry.undone_at&.utc&.iso8601(6),
          "about" => entry.about,
          "sum" => entry.sum
        }
        return "#{JSON.generate(row.merge("changes" => entry.undo.fetch("changes", [])))}\n" if @kind == "jsonl"
        row["about"] = row["about"].join(" ")
        CSV.generate_line(row.values_at(*COLUMNS).map { |one| Core::Package::Table.safe(one) })
      end
    end
  end
end
