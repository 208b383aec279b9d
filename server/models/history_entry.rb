# frozen_string_literal: true

module Fobrel
  module Models
    # Who did what, when, and what its undo needs.
    class HistoryEntry < Record
      # What stands for an undo that was kept for as long as the library's rules say.
      CLOSED = {"closed" => true}.freeze
      # So many names are asked for at once; of more, all that later deeds touched is read.
      ASKED = 2000

      # Of no library is what belongs to a person alone: a token, a sign-in from a new place.
      belongs_to :library, optional: true
      belongs_to :person

      # @param changes [History::Changes] none for what cannot be undone
      # @param about [Array<Record, String>] what it is about beside the rows that it changed, as itself or as "tags:4"
      # @return [HistoryEntry]
      def self.write(library, person, kind, summary, changes = History::Changes.new, about: [])
        touched = changes.touched
        about = (touched.grep(THING) + about.map { |one|
          one.is_a?(String) ? one : "#{one.class.table_name}:#{one.id}"
        }).uniq
        made = create!(library:, person:, kind:, summary:, undo: changes.to_h, touched:, about:, via: History::Via.now)
        Live.tell(what: "library", library: library.id, by: person.id) if library
        # The database gave it its place; what it changed may be large and is not read again.
        made.tap { |one| one.place, one.sum = where(id: one.id).pick(:place, :sum) }.tap(&:clear_changes_information)
      end

      # A row, and none of its columns; see History::Touched.
      THING = /\A[a-z_]+:\d+\z/
      private_constant :THING

      # @return [History::Changes] read anew each time
      def what_changed = History::Changes.read(undo)

      # @return [Boolean] whether what its undo needs is still there
      def open? = undo != CLOSED

      # @return [Boolean] whether it can be taken back
      def undoable? = undone_at.nil? && undo.key?("changes")

      # @return [ActiveRecord::Relation] what was done after this and was not undone
      def later = self.class.where(library_id:, undone_at: nil).where("history_entries.id > ?", id)

      # @return [Set<String>] what of this was touched again since, see History::Touched
      def touched_later
        found = later.where("cardinality(touched) > 0")
        found = found.where("touched && ARRAY[?]", touched) if touched.size.between?(1, ASKED)
        found.pluck(:touched).flatten.to_set & touched
      end
    end
  end
end
