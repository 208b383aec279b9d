# frozen_string_literal: true

module Fobrel
  module Api
    # Signing in and out, and what the page needs to know first.
    module Session
      extend Sinatra::Extension

      # Compared with when nobody has that login, so that the answer takes as long either way.
      NOBODY = BCrypt::Password.create("nobody has this")

      before("/api/session") { headers "Cache-Control" => "no-store" }

      get "/api/session" do
        answer(session_state(token? ? person : Models::Person.find_by(id: session["person"])))
      end

      post "/api/session" do
        login, password = json.values_at("login", "password")
        login = login.strip.downcase
        refuse(429, "Too many tries for this name. Wait a minute, then sign in again.") if too_many_for?(login)
        found = Models::Person.find_by(login:)
        unless found ? found.authenticate(password) : (NOBODY.is_password?(password) && nil)
          refuse(422, "This name and password do not belong together. Check both and try again.")
        end
        session.clear
        request.session_options[:renew] = true
        session["person"] = found.id
        answer(session_state(found))
      end

      delete "/api/session" do
        session.clear
        answer(session_state(nil))
      end

      # What the screen says that is the same for all brushes and libraries.
      get "/api/settings" do
        answer(Views.words)
      end

      helpers do
        # One account is not tried from many addresses either.
        def too_many_for?(login)
          key = "sign-in to #{Core::Sum.of(login)}"
          Rack::Attack.cache.count(key, App::SIGN_IN_PERIOD) > App::SIGN_IN_LIMIT
        end

        def session_state(person)
          memberships = person ? person.memberships.includes(:library).sort_by { |one| one.library.name.downcase } : []
          {
            csrf: Rack::Protection::AuthenticityToken.token(session),
            person: person && {id: person.id, name: person.name, login: person.login},
            libraries: memberships.map { |one|
              {id: one.library_id, name: one.library.name, role: one.role, canvas: one.library.canvas}
            }
          }
        end
      end
    end
  end
end
