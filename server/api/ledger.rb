# frozen_string_literal: true

module Fobrel
  module Api
    # Who did what, and the undo of it.
    module Ledger
      extend Sinatra::Extension

      # So many entries are told at once, and so many rows of one.
      PAGE = 100
      ROWS = 200

      get "/api/libraries/:library/ledger" do
        entries = library.ledger_entries
        found = Finding::Entries.new(entries, params).page(params.fetch("limit", PAGE).clamp(1, PAGE))
        people = Models::Person.where(id: entries.distinct.select(:person_id)).order(:name)
        answer(
          {
            entries: found.first(PAGE).map { |entry| Views.entry(entry) },
            more: found.size > params.fetch("limit", PAGE),
            kinds: entries.distinct.order(:kind).pluck(:kind),
            ways: Fobrel::Ledger::Via::ALL,
            people: people.map { |one| one.slice(:id, :name) }
          }
        )
      end

      # All that was found as a file, piece by piece: a table, or a line of JSON for each.
      get "/api/libraries/:library/ledger/file" do
        asked = Finding::Entries.new(library.ledger_entries, params)
        asked.found # says at once what cannot be asked
        kind = params.fetch("as", "csv")
        name = "#{Core::Package::FileName.plain(library.name)} ledger.#{kind}"
        headers "Content-Type" => (kind == "csv") ? "text/csv; charset=utf-8" : "application/jsonl; charset=utf-8",
          "Content-Disposition" => "attachment; filename*=UTF-8''#{ERB::Util.url_encode(name)}"
        halt 200, Reports::LedgerFile.new(asked, kind)
      end

      # Whether anything was changed behind the application's back.
      get "/api/libraries/:library/ledger/check" do
        answer(Fobrel::Ledger::Chain.new(library).check(known: params["known"]))
      end

      # One entry with what it changed, and what would stay if it were taken back.
      get "/api/ledger/:id" do
        entry = of_library(Models::LedgerEntry)
        rows = Views::Entries.changes(entry)
        stays = entry.undoable? ? Actions::Undo.look(entry:) : []
        answer({entry: Views.entry(entry), changes: rows.first(ROWS), count: rows.size, stays:})
      end

      # What is of no library: sign-ins from new places and tokens of everybody.
      get "/api/studio/ledger" do
        found = Finding::Entries.new(Models::LedgerEntry.where(library_id: nil), params).page(PAGE)
        answer({entries: found.first(PAGE).map { |entry| Views.entry(entry) }, more: found.size > PAGE})
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
        answer({kept: Actions::Undo.call(entry:, person:)})
      end
    end
  end
end
