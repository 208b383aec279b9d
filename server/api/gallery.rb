# frozen_string_literal: true

module Fobrel
  module Api
    # The gallery outside the studio: looked at, taken from, offered to.
    class Gallery < Base
      get "/api/gallery" do
        token = Models::GalleryToken.find_by(person:)
        answer({signed_in: !token.nil?, packages: token ? Models::OutsideGallery.new(token.token).look(params["q"].to_s[0, 200]).map { shown(_1) } : []})
      end

      # Signs in, if the gallery knows the token.
      put "/api/gallery/token" do
        token = text(json, "token", most: 400).strip
        raise Halt.new(422, "The gallery asks for a token. Paste the one it gave you.") unless token.match?(/\A[[:graph:]]+\z/)
        Models::OutsideGallery.new(token).look
        Models::GalleryToken.find_or_initialize_by(person:).update!(token:)
        answer({ok: true})
      end

      delete "/api/gallery/token" do
        Models::GalleryToken.where(person:).delete_all
        answer({ok: true})
      end

      post "/api/libraries/:library/gallery" do
        data = json
        found = library(:edit)
        signed_in
        title = text(data, "title", most: 200)
        answer(Views.task(Jobs::FetchFromGallery.begin(library: found, person:, about: {"id" => text(data, "id", most: 64), "title" => title}, message: "Downloading “#{title}”").reload), 202)
      end

      # A release goes out with words of its own.
      post "/api/releases/:id/offer" do
        data = json
        release = Models::Release.listed.find(number(params["id"]))
        membership(release.bundle.library_id, :hand_out)
        signed_in
        raise Halt.new(422, "This release was withdrawn. Offer another.") if release.withdrawn_at
        title = text(data, "title", most: 200).strip
        raise Halt.new(422, "Give it a title, so that it can be found.") if title.empty?
        about = {"release" => release.id, "title" => title, "description" => text(data, "description", "", most: 5000), "tags" => text(data, "tags", "", most: 500)}
        answer(Views.task(Jobs::OfferToGallery.begin(library: release.bundle.library, person:, about:, message: "Offering “#{title}”").reload), 202)
      end

      helpers do
        def signed_in = Models::GalleryToken.exists?(person:) || raise(Halt.new(422, "Sign in at the gallery first, with its token."))

        # What comes from outside is cut to size.
        def shown(package)
          {id: package["id"].to_s[0, 64], title: package["title"].to_s[0, 200], description: package["description"].to_s[0, 5000], author: package["author"].to_s[0, 200],
           tags: Array(package["tags"]).first(20).map { _1.to_s[0, 60] }, size: package["size"].to_i, at: package["at"].to_s[0, 40]}
        end
      end
    end
  end
end
