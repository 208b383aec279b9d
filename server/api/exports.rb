# frozen_string_literal: true

module Fobrel
  module Api
    # What goes out, and the list of what went.
    module Exports
      extend Sinatra::Extension

      SHOWN = 200

      get "/api/libraries/:library/exports" do
        exports = library.exports.with_waiting.includes(:person, release: :bundle).order(id: :desc).limit(SHOWN)
        answer({exports: exports.map { |export| Views.export(export) }})
      end

      post "/api/libraries/:library/exports" do
        wish = {"name" => "", **json, "of" => json["of"].slice("preset_ids", "set", "category", "library")}
        send_out(library, wish)
      end

      # The file of one that took long, for as long as it waits.
      get "/api/exports/:id/file" do
        export = of_library(Models::Export)
        refuse(404, "Its file is not kept any more. Export it again.") unless export.waits_until
        answer_file(export, name: export.file, type: Rack::Mime.mime_type(File.extname(export.file)), size: export.size)
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
        send_out(past.library, past.wish)
      end

      helpers do
        # At once, or as long work.
        def send_out(library, wish)
          asked = Actions::ExportBrushes.new(library:, person:, wish:, goes_to:)
          return begin_writing(library, wish, asked.words) if asked.long?
          outcome = Aside.export(library:, person:, wish:, goes_to:)
          answer_file(Pieces.new(outcome.io), name: outcome.file, type: outcome.type, size: outcome.io.size)
        end

        def begin_writing(library, wish, message)
          answer_begun(Jobs::WriteExport.begin(library:, person:, about: {wish:, goes_to:}, message:))
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
