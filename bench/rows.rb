# frozen_string_literal: true

require "json"

module Fobrel
  # The table of speed: each row measures something and what it is held against in the same run, says what is wanted,
  # and whether it holds. FOBREL_ROW names one; FOBREL_JSON a file that takes the table for keeping. The exit code says
  # whether every row holds.
  module Rows
    # What a row found: the figure that is judged, brushes, processor time (ms), the reference (ms) and the first try.
    Found = Struct.new(:value, :brushes, :cpu, :beside, :cold, :more, keyword_init: true)

    @rows = []

    class << self
      # @param name [String]
      # @param unit [String] of the value, such as "×" or "ms"
      # @param wanted [Float] the value may not be above
      # @yieldreturn [Found]
      def row(name, unit, wanted)
        return unless [nil, "", name].include?(ENV["FOBREL_ROW"])
        found = yield
        holds = found.value <= wanted
        @rows << {name:, unit:, wanted:, holds:, **found.to_h.compact}
        puts format(
          "%-44s %8.1f %-2s  wanted %6.1f  %-4s %s",
          name,
          found.value,
          unit,
          wanted,
          holds ? "yes" : "NO",
          words(found)
        )
      end

      # @return [Array(Float, Float)] brushes and processor time (ms)
      def once
        clocks = [Process::CLOCK_MONOTONIC, Process::CLOCK_PROCESS_CPUTIME_ID]
        began = clocks.map { Process.clock_gettime(_1) }
        yield
        clocks.zip(began).map { |clock, at| (Process.clock_gettime(clock) - at) * 1e3 }
      end

      # Brushes and processor time of the best of several tries, after one that does not count.
      #
      # @return [Found] without a value
      def time(tries = 5)
        cold = once { yield }.first
        all = Array.new(tries) { once { yield } }
        Found.new(brushes: all.map(&:first).min, cpu: all.map(&:last).min, cold:)
      end

      # @return [Boolean] whether something was measured
      def any? = @rows.any?

      # @return [Boolean] whether something was measured, and every row holds
      def hold? = @rows.any? && @rows.all? { _1[:holds] }

      def end
        keep(ENV["FOBREL_JSON"]) if ENV["FOBREL_JSON"]
        exit(hold? ? 0 : 1)
      end

      private

      # Beside what other parts have measured.
      def keep(path)
        before = File.exist?(path) ? JSON.parse(File.read(path), symbolize_names: true).fetch(:rows) : []
        others = before.reject { |row| @rows.any? { _1[:name] == row[:name] } }
        File.write(path, JSON.pretty_generate({at: Time.now.utc, rows: others + @rows}))
      end

      def words(found)
        [
          found.brushes && format("%.1f ms", found.brushes),
          found.cpu && format("cpu %.1f", found.cpu),
          found.cold && format("first %.1f", found.cold),
          found.beside && format("beside %.2f ms", found.beside),
          found.more
        ].compact.join(", ")
      end
    end
  end
end
