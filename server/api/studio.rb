# frozen_string_literal: true

module Fobrel
  module Api
    # For whoever runs the studio: its people and libraries, and what has to be put right.
    module Studio
      extend Sinatra::Extension

      get "/api/studio" do
        answer(Reports::Studio.new.to_h)
      end

      # Begins one; how far it is stands in the studio.
      post "/api/studio/backups" do
        answer(Views::Studio.backup(Jobs::BackUpStudio.begin(person)), 202)
      end

      # Takes over a library whose leads are gone.
      post "/api/studio/libraries/:item/lead" do
        found = Models::Library.find(params["item"])
        refuse(422, "A library of one's own has no other lead.") if found.kind == "personal"
        led = found.memberships.joins(:person).merge(Models::Person.here).exists?(role: "lead")
        refuse(422, "“#{found.name}” has a lead. Ask them for an invitation.") if led
        answer_entry(Actions::ChangeRole.call(library: found, person:, member: person.id, role: "lead"))
      end

      # Shuts somebody's account, or opens it again; what they made stays.
      put "/api/studio/people/:item" do
        answer(Actions::ChangePerson.call(person:, other: Models::Person.find(params["item"]), wish: json))
      end
    end
  end
end
