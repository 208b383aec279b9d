# frozen_string_literal: true

module Fobrel
  module Api
    # What takes room, what the night takes away, and how busy the server is.
    module Upkeep
      extend Sinatra::Extension

      get "/api/libraries/:library/upkeep" do
        answer(Views::Upkeep.of(library))
      end

      put "/api/libraries/:library/upkeep" do
        upkeep = Reports::Upkeep.new(library)
        said = upkeep.said(json["days"])
        Actions::SetUpLibrary.call(library:, person:, setting: :upkeep, value: upkeep.with(json["days"]), said:)
        answer(Views::Upkeep.of(library))
      end

      post "/api/libraries/:library/upkeep/cleaning" do
        if Models::Cleaning.exists?(ended_at: nil, created_at: 1.hour.ago..)
          refuse(422, "It is being cleaned already. Nothing else was begun.")
        end
        Jobs::CleanUp.now(person)
        answer(Views::Upkeep.of(library), 202)
      end
    end
  end
end
