# frozen_string_literal: true

module Fobrel
  module Api
    # What takes room, what the night takes away, and how busy the server is.
    module Storage
      extend Sinatra::Extension

      get "/api/libraries/:library/storage" do
        answer(Views::Storage.of(library))
      end

      put "/api/libraries/:library/storage" do
        storage = Reports::Storage.new(library)
        said = storage.said(json["days"])
        Actions::SetUpLibrary.call(library:, person:, setting: :storage, value: storage.with(json["days"]), said:)
        answer(Views::Storage.of(library))
      end

      post "/api/libraries/:library/storage/cleaning" do
        if Models::Cleaning.exists?(ended_at: nil, created_at: 1.hour.ago..)
          refuse(422, "It is being cleaned already. Nothing else was begun.")
        end
        Jobs::CleanUp.now(person)
        answer(Views::Storage.of(library), 202)
      end
    end
  end
end
