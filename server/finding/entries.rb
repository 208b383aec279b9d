# frozen_string_literal: true

module Fobrel
  module Finding
    # Finds in the history, the newest first, page by page by an entry's place.
    class Entries
      # What an entry may be about, and the table of it.
      ABOUT = {"preset" => "presets", "import" => "imports", "release" => "releases", "desk" => "desks"}.freeze

      # @param entries [ActiveRecord::Relation<Models::HistoryEntry>] of one library, or of none
      # @param asked [Hash{String => String, Integer}] "q" (words), "kind", "via", "person" (id), a key of ABOUT
      #   (id), "from" and "till" (days), "before" (a place)
      def initialize(entries, asked)
        @all = entries
        @asked = asked.compact
      end

      # @return [ActiveRecord::Relation<Models::HistoryEntry>] in no order
      def found
        found = @all
        @asked["q"].to_s.split.each { |word| found = found.where("summary ILIKE ?", "%#{like(word)}%") }
        found = found.where(kind: @asked["kind"]) if @asked["kind"]
        found = found.where(via: @asked["via"]) if @asked["via"]
        found = found.where(person_id: @asked["person"]) if @asked["person"]
        @asked.slice(*ABOUT.keys).each { |name, id| found = found.where("about @> ARRAY[?]", "#{ABOUT[name]}:#{id}") }
        found = found.where("created_at >= ?", day("from")) if @asked["from"]
        found = found.where("created_at < ?", day("till") + 1.day) if @asked["till"]
        found
      end

      # @param limit [Integer]
      # @return [Array(Array<Models::HistoryEntry>, Boolean)] so many, and whether there are more
      def page(limit)
        found = @asked["before"] ? self.found.where("place < ?", @asked["before"]) : self.found
        list = found.includes(:person).order(place: :desc).limit(limit + 1).to_a
        [list.first(limit), list.size > limit]
      end

      # All of them, the oldest first.
      #
      # @yieldparam entry [Models::HistoryEntry]
      def each
        last = 0
        loop do
          some = found.where("place > ?", last).includes(:person).order(:place).limit(500).to_a
          some.each { |entry| yield entry }
          break if some.size < 500
          last = some.last.place
        end
      end

      private

      def like(text) = Models::Record.sanitize_sql_like(text)

      def day(name)
        Time.utc(*Date.iso8601(@asked[name]).then { [_1.year, _1.month, _1.day] })
      rescue Date::Error
        raise Core::Problem, "“#{@asked[name].to_s[0, 20]}” is not a day. Write 2026-11-27."
      end
    end
  end
end
