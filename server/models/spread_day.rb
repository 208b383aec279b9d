# frozen_string_literal: true

module Fobrel
  module Models
    # How many places (libraries that follow, desks) had a library's brushes on one day; how many of them the newest.
    class SpreadDay < Record
      SHOWN = 60

      # Keeps what is so today; the last look of a day counts.
      #
      # @param library [Library]
      # @param found [Finding::Consistency] of all its brushes, where somebody asked for it anyway
      # @return [void]
      def self.keep(library, found = Finding::Consistency.new(library))
        places, newest = found.counts
        row = {library_id: library.id, day: Date.current, places:, newest:}
        upsert(row, unique_by: %i[library_id day]) if places.positive?
      end

      # @param library [Library]
      # @return [Array<Hash>] "day", "places", "newest" of the last days on which anybody looked, the oldest first
      def self.of(library)
        where(library_id: library.id).order(day: :desc).limit(SHOWN).pluck(:day, :places, :newest).reverse
          .map { |day, places, newest| {day: day.iso8601, places:, newest:} }
      end
    end
  end
end
