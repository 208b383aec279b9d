# frozen_string_literal: true

module Fobrel
  module Api
    # What goes out, and the list of what went.
    class Exports < Base
      get "/api/libraries/:library/exports" do
        found = library.exports.includes(:person, release: :bundle).order(id: :desc).limit(200)
        answer({exports: found.map { view(_1) }})
      end

      post "/api/libraries/:library/exports" do
        data = json
        found = library
        out(Aside.export(library: found, person:, wish: wish(data), goes_to:))
      end

      # The same again, of the brushes as they are now; a release never changes.
      post "/api/exports/:id/repeat" do
        past = of_library(Models::Export)
        if past.release
          raise Halt.new(
            422,
            "This went out as release #{past.release.number}. Download it with the bundle's releases: it never changes."
          )
        end
        out(Aside.export(library: past.library, person:, wish: past.wish, goes_to:))
      end

      helpers do
        def goes_to = token? ? "the command line" : "this browser"

        def wish(data)
          of = data["of"].is_a?(Hash) ? data["of"] : {}
          ids(of) if of.key?("preset_ids")
          data.merge(
            "kind" => text(data, "kind"),
            "name" => text(data, "name", "", most: 200),
            "of" => of.slice("preset_ids", "set", "family", "library")
          )
        end

        def out(outcome)
          headers "Content-Type" => outcome.type,
            "Content-Length" => outcome.io.size.to_s,
            "Content-Disposition" => "attachment; filename*=UTF-8''#{ERB::Util.url_encode(outcome.file)}"
          halt 200, Pieces.new(outcome.io)
        end

        def view(export)
          {
            id: export.id,
            kind: export.kind,
            said: Actions::ExportBrushes::SAID.fetch(export.kind),
            name: export.name,
            file: export.file,
            goes_to: export.goes_to,
            count: export.count,
            size: export.size,
            sha256: export.sha256,
            by: export.person.name,
            at: export.created_at.iso8601,
            release: export.release && {bundle: export.release.bundle.name, number: export.release.number}
          }
        end
      end

      # A file on its way out, a piece at a time.
      Pieces = Struct.new(:io) do
        def each
          while (bytes = io.read(1 << 18))
            yield bytes
          end
        end

        def close = io.close
      end
      private_constant :Pieces
    end
  end
end
