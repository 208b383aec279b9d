# frozen_string_literal: true

module Fobrel
  module Api
    # Who did what, and the undo of it.
    module History
      extend Sinatra::Extension

      # So many entries are told at once, and so many rows of one.
      PAGE = 100
      ROWS = 200

      get "/api/libraries/:library/history" do
        entries = library.history_entries
        list, more = Finding::Entries.new(entries, params).page(params.fetch("limit", PAGE).clamp(1, PAGE))
        people = Models::Person.where(id: entries.distinct.select(:person_id)).order(:name)
        answer(
          {
            entries: list.map { |entry| Views.entry(entry) },
            more:,
            kinds: entries.distinct.order(:kind).pluck(:kind),
            ways: Fobrel::History::Via::ALL,
            people: people.map { |one| one.slice(:id, :name) }
          }
        )
      end

      # All that was found as a file, piece by piece: a table, or a line of JSON for each.
      get "/api/libraries/:library/history/file" do
        asked = Finding::Entries.new(library.history_entries, params)
        asked.found # says at once what cannot be asked
        kind = params.fetch("as", "csv")
        name = "#{Core::Package::FileName.plain(library.name)} history.#{kind}"
        headers "Content-Type" => (kind == "csv") ? "text/csv; charset=utf-8" : "application/jsonl; charset=utf-8",
          "Content-Disposition" => "attachment; filename*=UTF-8''#{ERB::Util.url_encode(name)}"
        halt 200, Reports::HistoryFile.new(asked, kind)
      end

      # Whether anything was changed behind the application's back.
      get "/api/libraries/:library/history/check" do
        answer(Fobrel::History::Chain.new(library).check(known: params["known"]))
      end

      # One entry with what it changed, and what would stay if it were taken back.
      get "/api/history/:id" do
        entry = of_library(Models::HistoryEntry)
        list = entry.what_changed.list
        # Looking takes as long as the undo itself, and nobody waits for that.
        stays = (entry.undoable? && !long?(entry)) ? Actions::Undo.look(entry:) : []
        changes = Views::Entries.changes(list.first(ROWS))
        answer({entry: Views.entry(entry), changes:, count: list.size, looked: !long?(entry), stays:})
      end

      # What is of no library: sign-ins from new places and tokens of everybody.
      get "/api/studio/history" do
        list, more = Finding::Entries.new(Models::HistoryEntry.where(library_id: nil), params).page(PAGE)
        answer({entries: list.map { |entry| Views.entry(entry) }, more:})
      end

      # What another did is taken back by a lead.
      post "/api/history/:id/undo" do
        entry = of_library(Models::HistoryEntry)
        membership(entry.library_id, :lock) unless entry.person == person
        if entry.undoable? && long?(entry)
          next answer_begun(
            Jobs::ChangeMany.begin(
              library: entry.library,
              person:,
              about: {"undo" => entry.id, "asked_by" => person.id},
              message: "Taking back: #{entry.summary}"
            )
          )
        end
        answer({kept: Actions::Undo.call(entry:, person:)})
      end

      helpers do
        # Whether one would wait too long for its undo.
        def long?(entry) = Actions::ForMany.long?(Actions::ForMany::UNDO, entry.touched.size)
      end
    end
  end
end
