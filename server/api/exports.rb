# frozen_string_literal: true

module Fobrel
  module Api
    # What goes out, and the list of what went.
    module Exports
      extend Sinatra::Extension

      SHOWN = 200

      get "/api/libraries/:library/exports" do
        exports = library.exports.includes(:person, release: :bundle).order(id: :desc).limit(SHOWN)
        answer({exports: exports.map { |export| Views.export(export) }})
      end

      post "/api/libraries/:library/exports" do
        wish = {"name" => "", **json, "of" => json["of"].slice("preset_ids", "set", "family", "library")}
        send_out(Aside.export(library: library, person:, wish:, goes_to:))
      end

      # The same again, of the brushes as they are now; a release never changes.
      post "/api/exports/:id/repeat" do
        past = of_library(Models::Export)
        if past.release
          refuse(
            422,
            "This went out as release #{past.release.number}. Download it with the bundle's releases: it never changes."
          )
        end
        send_out(Aside.export(library: past.library, person:, wish: past.wish, goes_to:))
      end

      helpers do
        def send_out(outcome)
          answer_file(Pieces.new(outcome.io), name: outcome.file, type: outcome.type, size: outcome.io.size)
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
