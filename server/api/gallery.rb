# frozen_string_literal: true

module Fobrel
  module Api
    # The gallery outside the studio: looked at, taken from, offered to.
    class Gallery < Base
      # What the gallery said last, and whether it is being asked.
      get "/api/gallery" do
        answer(view(Models::GalleryLook.find_by(person:)))
      end

      # Begins to ask it. Whoever asks again in the meantime is answered that only.
      post "/api/gallery/look" do
        signed_in
        answer(view(Models::GalleryLook.begin(person, text(json, "q", "", most: 200).delete("\0"))), 202)
      end

      # Signs in, if the gallery knows the token.
      put "/api/gallery/token" do
        token = text(json, "token", most: 400).strip
        unless token.match?(/\A[[:graph:]]+\z/)
          raise Halt.new(
            422,
            "The gallery asks for a token. Paste the one it gave you."
          )
        end
        answer(view(Models::GalleryLook.begin(person, "", candidate: token)), 202)
      end

      delete "/api/gallery/token" do
        Models::GalleryLook.where(person:).delete_all
        Models::GalleryToken.where(person:).delete_all
        answer({ok: true})
      end

      post "/api/libraries/:library/gallery" do
        data = json
        found = library
        signed_in
        title = text(data, "title", most: 200)
        answer(
          Views.task(
            Jobs::FetchFromGallery.begin(
              library: found,
              person:,
              about: {"id" => text(data, "id", most: 64), "title" => title},
              message: "Downloading “#{title}”"
            ).reload
          ),
          202
        )
      end

      # A release goes out with words of its own.
      post "/api/releases/:id/offer" do
        data = json
        release = Models::Release.listed.find(number(params["id"]))
        membership(release.bundle.library_id)
        signed_in
        raise Halt.new(422, "This release was withdrawn. Offer another.") if release.withdrawn_at
        title = text(data, "title", most: 200).strip
        raise Halt.new(422, "Give it a title, so that it can be found.") if title.empty?
        about = {
          "release" => release.id,
          "title" => title,
          "description" => text(data, "description", "", most: 5000),
          "tags" => text(data, "tags", "", most: 500)
        }
        answer(
          Views.task(
            Jobs::OfferToGallery.begin(
              library: release.bundle.library,
              person:,
              about:,
              message: "Offering “#{title}”"
            ).reload
          ),
          202
        )
      end

      helpers do
        def signed_in
          Models::GalleryToken.exists?(person:) || raise(Halt.new(422, "Sign in at the gallery first, with its token."))
        end

        def view(look)
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
