# frozen_string_literal: true

module Fobrel
  module Api
    # Signing in and out, and what the page needs to know first.
    class Sessions < Base
      # Compared with when nobody has that login, so that the answer takes as long either way.
      NOBODY = BCrypt::Password.create("nobody has this")

      before { headers "Cache-Control" => "no-store" }

      get "/api/session" do
        answer(state(token? ? person : Models::Person.find_by(id: session["person"])))
      end

      post "/api/session" do
        data = json
        login = text(data, "login", "").strip.downcase
        raise Halt.new(429, "Too many tries for this name. Wait a minute, then sign in again.") if too_many?(login)
        found = Models::Person.find_by(login:)
        password = text(data, "password", "")
        unless found ? found.authenticate(password) : (NOBODY.is_password?(password) && nil)
          raise Halt.new(422, "This name and password do not belong together. Check both and try again.")
        end
        session.clear
        request.session_options[:renew] = true
        session["person"] = found.id
        answer(state(found))
      end

      delete "/api/session" do
        session.clear
        answer(state(nil))
      end

      # The one list of settings.
      get "/api/settings" do
        answer(Core::Preset::Schema::DOCUMENT)
      end

      helpers do
        # One account is not tried from many addresses either.
        def too_many?(login)
          Rack::Attack.cache.count(
            "sign-in to #{Digest::SHA256.hexdigest(login)}",
            App::SIGN_IN_PERIOD
          ) > App::SIGN_IN_LIMIT
        end

        def state(person)
          {
            csrf: Rack::Protection::AuthenticityToken.token(session),
            person: person && {id: person.id, name: person.name, login: person.login},
            libraries: person ? person.memberships.includes(:library).sort_by {
              _1.library.name.downcase
            }.map {
              {
                id: _1.library_id,
                name: _1.library.name,
                role: _1.role,
                canvas: _1.library.canvas
              }
            } : []
          }
        end
      end
    end
  end
end
