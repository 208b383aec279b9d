# frozen_string_literal: true

module Fobrel
  module Api
    # Signing in and out, and what the page needs to know first.
    module Session
      extend Sinatra::Extension

      # Compared with when nobody has that login, so that the answer takes as long either way.
      NOBODY = BCrypt::Password.create("nobody has this")

      # Seconds.
      SLOWED = 1

      before("/api/session") { headers "Cache-Control" => "no-store" }

      get "/api/session" do
        answer(session_state(token? ? person : sign_in&.person))
      end

      post "/api/session" do
        login, password = json.values_at("login", "password")
        found = known(Core::Names.login(login), password)
        unless found
          refuse(422, "Wrong name or password.")
        end
        enter(found)
        answer(session_state(found))
      end

      # Whoever kept the cookie has nothing in it any more.
      delete "/api/session" do
        Models::SignIn.where(id: sign_in).end_all if sign_in
        session.clear
        answer(session_state(nil))
      end

      # The first lead of a new studio; the key stands where the studio was started.
      post "/api/begin" do
        key = Models::Person.first_key or refuse(
          404,
          "This studio is already set up. Sign in, or ask for an invitation."
        )
        refuse(422, "This is not the key that was shown when Fobrel started.") unless Core::Sum.of(json["key"]) == key
        first = Actions::BeginStudio.call(**json.slice("login", "name", "password", "library").transform_keys(&:to_sym))
        enter(first)
        answer(session_state(first), 201)
      end

      # What the screen says that is the same for all brushes and libraries.
      get "/api/settings" do
        answer(Views.words)
      end

      helpers do
        # @return [Models::Person, nil] whose name and password these are
        # @raise [Application::Halt] 429
        def known(login, password)
          refuse(429, "Too many tries for this name from here. Wait a minute, then try again.") if too_many_for?(login)
          found = Models::Person.here.find_by(login:)
          return found&.authenticate(password) || nil if found
          NOBODY.is_password?(password) && nil
        end

        def too_many_for?(login)
          account = Core::Sum.of(login)
          slow_down if tries("sign-in to #{account}") > App::SIGN_IN_LIMIT
          tries("sign-in to #{account} from #{App.address(env)}") > App::SIGN_IN_LIMIT
        end

        def tries(key) = Rack::Attack.cache.count(key, App::SIGN_IN_PERIOD)

        # An account that is tried from many addresses is answered late, and never shut. So few wait at once that the
        # others are not held up.
        def slow_down
          room = App::Room.here.enter(:slowed, :anybody)
          sleep(SLOWED)
        rescue Core::Apart::Busy
          nil
        ensure
          App::Room.here.leave(room) if room
        end

        # A new session, whatever there was before.
        def enter(person)
          sign_in&.update!(ended_at: Time.current)
          session.clear
          known = Models::SignIn.exists?(person:, address: App.address(env))
          said = "Signed in from a new place, #{App.address(env)}"
          Models::HistoryEntry.write(nil, person, "sign-in", said) unless known
          request.session_options[:renew] = true
          @sign_in, session["sign_in"] = Models::SignIn.begin(
            person, address: App.address(env), agent: request.user_agent
          )
        end

        def session_state(person)
          mine = token? ? memberships : person&.memberships
          mine = mine ? mine.includes(:library).sort_by { |one| one.library.name.downcase } : []
          {
            csrf: Rack::Protection::AuthenticityToken.token(session),
            begins: person.nil? && !Models::Person.first_key.nil?,
            person: person&.slice(:id, :name, :login, :owner, :hints),
            libraries: mine.map { |one| Views::People.library(one) }
          }
        end
      end
    end
  end
end
