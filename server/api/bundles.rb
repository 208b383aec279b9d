# frozen_string_literal: true

module Fobrel
  module Api
    # Bundles: their brushes, words and cover, and what a release would meet.
    module Bundles
      extend Sinatra::Extension

      get "/api/libraries/:library/bundles" do
        answer({bundles: library.bundles.order(:name).map { |bundle| Views::Bundles.bundle(bundle) }})
      end

      post "/api/libraries/:library/bundles" do
        made = Models::Record.transaction do
          said = {name: json["name"], author: person.name}
          Actions::MakeThing.call(things: library.bundles, person:, said:).tap do |bundle|
            Actions::ChangeBundle.call(bundle:, person:, ids: json.fetch("preset_ids", []), sections: sections_sent)
          end
        end
        answer(Views::Bundles.bundle(made), 201)
      end

      put "/api/bundles/:id" do
        bundle = of_library(Models::Bundle)
        entry = Actions::ChangeBundle.call(
          bundle:,
          person:,
          words: json,
          ids: json["preset_ids"],
          before: json["before"],
          sections: sections_sent,
          cover: json["cover"]
        )
        answer({bundle: Views::Bundles.bundle(bundle.reload), entry: entry && Views.entry(entry)})
      end

      # A picture of its own as the cover; the bytes are the body.
      put "/api/bundles/:id/picture" do
        bundle = of_library(Models::Bundle)
        bundle.keep_picture(read_body(Core::Tip::Picture::MAX_BYTES), name: picture_name)
        answer(Views::Bundles.bundle(bundle.reload))
      end

      # Under its sum: another picture has another address.
      get "/api/bundles/:id/picture-:sum.png" do |_, sum|
        raise ActiveRecord::RecordNotFound unless of_library(Models::Bundle).picture == sum
        answer_forever(Models::Asset::Bytes.fetch(sum) { raise ActiveRecord::RecordNotFound })
      end

      delete "/api/bundles/:id" do
        answer_removed(of_library(Models::Bundle))
      end

      get "/api/bundles/:id/preflight" do
        bundle = of_library(Models::Bundle)
        action = Actions::ReleaseBundle.new(bundle:, person:)
        answer(Views::Bundles.preflight(action, bundle.releases.listed.last&.number))
      end

      # Any two releases, brush by brush, with what each paints.
      get "/api/bundles/:id/comparison" do
        releases = of_library(Models::Bundle).releases.listed
        answer(Views::Bundles.comparison(releases.find(params["from"]), releases.find(params["to"])))
      end
    end
  end
end
