# frozen_string_literal: true

module Fobrel
  module Api
    # Who did what, and the undo of it.
    module Ledger
      extend Sinatra::Extension

      get "/api/libraries/:library/ledger" do
        entries = library.ledger_entries.includes(:person).order(id: :desc).limit(200)
        answer({entries: entries.map { |entry| Views.entry(entry) }})
      end

      # What another did is taken back by a lead.
      post "/api/ledger/:id/undo" do
        entry = of_library(Models::LedgerEntry)
        membership(entry.library_id, :lock) unless entry.person == person
        count = entry.touched.size
        if entry.undoable? && Actions::ForMany.long?(Actions::ForMany::UNDO, count)
          next answer_begun(
            Jobs::ChangeMany.begin(
              library: entry.library,
              person:,
              about: {"undo" => entry.id},
              message: "Taking back: #{entry.summary}"
            )
          )
        end
        answer({kept: Actions::Undo.call(entry:)})
      end
    end
  end
end
