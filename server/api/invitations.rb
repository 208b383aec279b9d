# frozen_string_literal: true

module Fobrel
  module Api
    # Links that let somebody into a library: made by a lead, used once by whoever has it.
    module Invitations
      extend Sinatra::Extension

      get "/api/libraries/:library/invitations" do
        answer({invitations: library.invitations.open.order(:id).map { |one| Views::People.invitation(one) }})
      end

      post "/api/libraries/:library/invitations" do
        here = library
        if here.invitations
            .open.count >= Models::Invitation::MOST
          refuse(
            422,
            "#{Models::Invitation::MOST} invitations are open already. Take one back first."
          )
        end
        refuse(422, "Nobody is invited to a library of one's own.") if here.kind == "personal"
        made, key = Models::Record.transaction do
          Models::Invitation.issue(here, person, role: json["role"], name: json.fetch("name", "")).tap { |one, _|
            Models::HistoryEntry.write(here, person, "people", "#{called(one)} invited as #{one.role}", about: [one])
          }
        end
        answer({**Views::People.invitation(made), path: "/invitation/#{key}"}, 201)
      end

      delete "/api/libraries/:library/invitations/:item" do
        here = library
        Models::Record.transaction do
          gone = here.invitations.open.find(params["item"]).destroy!
          Models::HistoryEntry.write(
            here,
            person,
            "people",
            "The invitation of #{called(gone)} was revoked",
            about: [gone]
          )
        end
        answer({ok: true})
      end

      get "/api/invitations/:key" do |key|
        found = invitation(key)
        answer(
          {
            library: found.library.name,
            description: found.library.description,
            role: found.role,
            by: found.person.name,
            name: found.name,
            ends_at: found.ends_at.iso8601,
            member: !!sign_in && found.library.memberships.exists?(person: sign_in.person)
          }
        )
      end

      # As the person who is signed in; or as somebody new, who is signed in then.
      post "/api/invitations/:key" do |key|
        found = invitation(key)
        words = json.slice("login", "name", "password").transform_keys(&:to_sym)
        member = Actions::AcceptInvitation.call(invitation: found, person: sign_in&.person, **words)
        enter(member) unless sign_in
        answer(session_state(member), 201)
      end

      helpers do
        def called(invitation) = invitation.name.empty? ? "Somebody" : invitation.name

        def invitation(key)
          Models::Invitation.of(key) || refuse(
            404,
            "This invitation is no longer valid: it was used, revoked, or is over a week old. Ask for " \
              "another."
          )
        end
      end
    end
  end
end
