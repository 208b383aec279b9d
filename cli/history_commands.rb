# frozen_string_literal: true

module Fobrel
  # `fobrel history`: what was done, and whether what is written of it is as it was written.
  module HistoryCommands
    private

    # Exit 1 where something was changed behind the application's back.
    def history_verify
      arguments("library with --library", 0..0) do |o|
        in_library(o)
        o.on("--known SUM") { @options[:known] = _1 }
      end
      found = studio.check_history(library, known: @options[:known])
      lines = found["broken"].map { |one| "entry #{one["place"]}: #{one["why"]}" }
      lines << "the entry with the sum #{@options[:known]} is not there any more" unless found["known"]
      head = "head: #{found["head"]}"
      answer(found, lines.empty? ? "All #{found["entries"]} entries are as they were written; #{head}" : [*lines, head])
      lines.empty? ? 0 : 1
    end

    # As a table, or with what each changed as JSON lines, by the ending of the file.
    def history_export
      arguments("library with --library", 0..0) do |o|
        output(o)
        in_library(o)
      end
      kind = wanted_output.end_with?(".csv") ? "csv" : "jsonl"
      text = studio.history(library, kind)
      write(wanted_output, text)
      answer({file: wanted_output, bytes: text.bytesize}, "#{wanted_output}: #{text.lines.size} lines")
    end
  end
end
