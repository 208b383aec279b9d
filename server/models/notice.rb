# frozen_string_literal: true

module Fobrel
  module Models
    # Something that concerns a person: it waits in their inbox until they have seen it.
    class Notice < Record
      # Each kind, and what a person calls it who wants none of them.
      KINDS = {
        "proposal" => "brushes proposed to libraries you lead",
        "answer" => "answers to your proposals",
        "mention" => "where somebody names you",
        "comment" => "what is said where you spoke, or made something",
        "release" => "new releases of what your libraries follow",
        "lock" => "locks of yours that somebody opened",
        "desk" => "desks whose folder was altered",
        "people" => "your role in a library"
      }.freeze
      # Beside the kinds, the summary once a day.
      DAILY = "daily"
      WANTED = {**KINDS, DAILY => "a summary by mail, once a day"}.freeze
      # So many are kept of each person.
      MOST = 500

      belongs_to :person
      belongs_to :library
      validates :kind, inclusion: {in: KINDS.keys}

      scope :unseen, -> { where(seen_at: nil) }

      # @param people [Array<Person>] each once; whoever wants none of this kind gets none
      # @param path [String] where it is looked at, within the library: "/sharing/proposals?proposal=3"
      def self.tell(people, library:, kind:, text:, path:, except: nil)
        now = Time.current
        rows = people.uniq.reject { |one| one == except || one.closed_at || one.notices_off.include?(kind) }.map { |one|
          {person_id: one.id, library_id: library.id, kind:, text: text[0, 500], path:, created_at: now}
        }
        insert_all!(rows) if rows.any?
        rows.each { |row| where(person_id: row[:person_id]).order(id: :desc).offset(MOST).delete_all } if rand(20).zero?
        Live.tell(people: rows.map { |row| row[:person_id] }, what: "inbox")
      end
    end
  end
end
