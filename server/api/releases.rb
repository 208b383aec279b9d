# frozen_string_literal: true

module Fobrel
  module Api
    # What of a bundle was frozen for good.
    module Releases
      extend Sinatra::Extension

      post "/api/bundles/:id/releases" do
        bundle = of_library(Models::Bundle)
        how = {number: json["number"], notes: json.fetch("notes", "")}
        if Actions::ReleaseBundle.new(bundle:, person:).long?
          about = {"bundle" => bundle.id, **how.transform_keys(&:to_s)}
          answer_begun(
            Jobs::WriteRelease.begin(
              library: bundle.library,
              person:,
              about:,
              message: "Releasing #{bundle.name}"
            )
          )
        end
        answer(Views::Bundles.release(Actions::ReleaseBundle.call(bundle:, person:, **how)), 201)
      end

      get "/api/releases/:id/package" do
        release = release_here
        title = "#{release.words["name"]}-#{release.number}".downcase.gsub(/[^[:alnum:].]+/, "-")
        bytes = Models::Release.where(id: release.id).pick(:package)
        Actions::NoteExport.call(
          library: release.bundle.library,
          person:,
          release:,
          kind: "package",
          name: "#{release.words["name"]} #{release.number}",
          file: "#{title}.fobrel.zip",
          goes_to:,
          wish: {"release" => release.id},
          count: release.items.size,
          size: bytes.bytesize,
          sha256: release.sha256
        )
        answer_file(bytes, name: "#{title}.fobrel.zip", type: "application/zip")
      end

      put "/api/releases/:id/withdraw" do
        answer_entry(Actions::WithdrawRelease.call(release: release_here, person:, reason: json["reason"]))
      end

      helpers do
        def release_here
          found = Models::Release.listed.find(params["id"])
          membership(found.bundle.library_id)
          found
        end
      end
    end
  end
end
