# frozen_string_literal: true

module Fobrel
  module Api
    # Packages going out and coming in.
    class Packages < Base
      MAX_BYTES = 256 * 1024 * 1024

      post "/api/libraries/:library/packages" do
        data = json
        name = text(data, "name", "")
        bytes = Actions::ExportPackage.call(library: library(:look), person:, ids: ids(data), name:)
        file = name.downcase.gsub(/[^[:alnum:]]+/, "-").gsub(/\A-+|-+\z/, "").then { _1.empty? ? "brushes" : _1 }
        headers "Content-Type" => "application/zip", "Content-Disposition" => "attachment; filename*=UTF-8''#{ERB::Util.url_encode(file)}.fobrel.zip"
        halt 200, bytes
      end

      # The same as plain open files, or as one table.
      post "/api/libraries/:library/exports" do
        data = json
        found = library(:look)
        kind = Actions::ExportKit::KINDS.include?(data["kind"]) ? data["kind"] : raise(Halt.new(400, "kind must be one of #{Actions::ExportKit::KINDS.join(", ")}."))
        bytes = Actions::ExportKit.call(library: found, person:, ids: ids(data), kind:)
        type, file = {"kit" => ["application/zip", "kit.zip"], "inventory" => ["text/csv; charset=utf-8", "inventory.csv"]}.fetch(kind)
        headers "Content-Type" => type, "Content-Disposition" => "attachment; filename*=UTF-8''#{Time.now.utc.strftime("%Y-%m-%d")}-#{file}"
        halt 200, bytes
      end

      # With plan=true nothing is changed: it says what would happen.
      post "/api/libraries/:library/imports" do
        file = params["file"].to_s[0, 120].then { _1.empty? ? "The package" : _1 }
        library = library(:edit)
        bundle = Core::Package::Reader.read(read_body(MAX_BYTES), name: file)
        import = {library:, person:, bundle:, file:}
        next answer(told(bundle, Actions::ImportPackage.new(**import).plan)) if signed?("plan")
        done = Actions::ImportPackage.call(**import)
        answer(told(bundle, done[:items]).merge(entry: done[:entry] && Views::Entry.new(done[:entry]).to_h), 201)
      end

      get "/api/libraries/:library/ledger" do
        answer({entries: Views::Entry.new(library.ledger_entries.includes(:person).order(id: :desc).limit(200).to_a).to_h})
      end

      post "/api/ledger/:id/undo" do
        entry = of_library(Models::LedgerEntry, :edit)
        membership(entry.library_id, :lock) unless entry.person == person
        answer({kept: Actions::Undo.call(entry:, person:)})
      end

      helpers do
        def told(bundle, items)
          {name: bundle.name, version: bundle.version, author: bundle.author,
           sets: bundle.sets.map(&:name), tags: bundle.tags.map(&:name), pictures: bundle.assets.size,
           items: items.map { {name: _1[:preset].name, becomes: _1[:name], does: _1[:does], fingerprint: _1[:preset].fingerprint, strip: strip(bundle, _1[:preset])} }}
        end

        # Painted here, from what came: a strip that travels along could show anything.
        def strip(bundle, preset)
          return unless signed?("plan")
          assets = bundle.assets.transform_values(&:bytes)
          inline(Core::Stroke::Strip.png(preset, assets:))
        rescue Core::Problem
          nil
        end
      end
    end
  end
end
