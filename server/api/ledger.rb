# frozen_string_literal: true

module Fobrel
  module Api
    # Who did what, and the undo of it.
    class Ledger < Base
      get "/api/libraries/:library/ledger" do
        entries = library.ledger_entries.includes(:person).order(id: :desc).limit(200)
        answer({entries: entries.map { Views.entry(_1) }})
      end

      post "/api/ledger/:id/undo" do
        entry = of_library(Models::LedgerEntry)
        membership(entry.library_id, :lock) unless entry.person == person
        answer({kept: Actions::Undo.call(entry:)})
      end
    end
  end
end
