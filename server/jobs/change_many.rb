# frozen_string_literal: true

module Fobrel
  module Jobs
    # Does to many brushes what a person asked for, or takes such a thing back; what would have been answered at once is
    # answered in the end.
    class ChangeMany < Job
      # Two of these do not keep what is short waiting.
      def self.short?(_about) = false

      # What is taken back of another's deeds, or destroyed, was looked at when it was asked for.
      def self.needs(about)
        return :edit unless about.key?("undo")
        entry = Models::HistoryEntry.find_by(id: about["undo"])
        (entry && entry.person_id != about["asked_by"]) ? :lock : :edit
      end

      private

      def work(about)
        Models::Record.transaction(requires_new: true) do
          Actions::Action.telling(progress) { about.key?("undo") ? undo(about) : deed(about) }
        end
      end

      def deed(about)
        kind, said = about.fetch_values("deed", "said")
        entry = Actions::ForMany.call(kind, library: @task.library, person: @task.person, said:)
        ended(about, entry.summary, {**about.fetch("answer"), entry: Views.entry(entry)}, entry.id)
      end

      def undo(about)
        kept = Actions::Undo.call(entry: @task.library.history_entries.find(about["undo"]), person: @task.person)
        ended(about, ["Undone.", *kept].join(" "), {kept:})
      end

      def ended(about, message, result, entry = nil)
        @task.update!(about: about.slice("deed", "undo").merge("result" => result, "entry" => entry))
        @task.finish(message)
      end
    end
  end
end
