# frozen_string_literal: true

module Fobrel
  module Api
    # The gallery outside the studio: listed, downloaded from, published to.
    module Gallery
      extend Sinatra::Extension

      # What the gallery said last, and whether it is being asked.
      get "/api/gallery" do
        answer(gallery_view(Models::GalleryLook.find_by(person:)))
      end

      # Begins to ask it. Whoever asks again in the meantime is answered that only.
      post "/api/gallery/look" do
        need_gallery_token
        answer(gallery_view(Models::GalleryLook.begin(person, json["q"])), 202)
      end

      # Signs in, if the gallery knows the token.
      put "/api/gallery/token" do
        token = json["token"].strip
        refuse(422, "The gallery asks for a token. Paste the one it gave you.") unless token.match?(/\A[[:graph:]]+\z/)
        answer(gallery_view(Models::GalleryLook.begin(person, "", candidate: token)), 202)
      end

      delete "/api/gallery/token" do
        Models::GalleryLook.where(person:).delete_all
        Models::GalleryToken.where(person:).delete_all
        answer({ok: true})
      end

      post "/api/libraries/:library/gallery" do
        need_gallery_token
        about = json.slice("id", "title")
        task = Jobs::FetchFromGallery.begin(
          library: library, person:, about:, message: "Downloading “#{about["title"]}”"
        )
        answer(Views.task(task.reload), 202)
      end

      # A release goes out with words of its own.
      post "/api/releases/:id/publish" do
        need_gallery_token
        release = release_here
        refuse(422, "This release was withdrawn. Publish another.") if release.withdrawn_at
        about = {"description" => "", "tags" => "", **json, "title" => json["title"].strip, "release" => release.id}
        refuse(422, "Give it a title, so that it can be found.") if about["title"].empty?
        task = Jobs::PublishToGallery.begin(
          library: release.bundle.library, person:, about:, message: "Publishing “#{about["title"]}”"
        )
        answer(Views.task(task.reload), 202)
      end

      helpers do
        def need_gallery_token
          refuse(422, "Sign in at the gallery first, with its token.") unless Models::GalleryToken.exists?(person:)
        end

        def gallery_view(look)
          {
            signed_in: Models::GalleryToken.exists?(person:),
            asking: look&.asking? || false,
            q: look&.query || "",
            problem: look&.problem,
            packages: look&.packages || []
          }
        end
      end
    end
  end
end
