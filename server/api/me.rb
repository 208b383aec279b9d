# frozen_string_literal: true

module Fobrel
  module Api
    # A person about themselves: name, password, and where they are signed in.
    module Me
      extend Sinatra::Extension

      before("/api/me*") do
        refuse(403, "A token cannot be used for this. Sign in with your password.") if token?
      end

      get "/api/me" do
        answer(me)
      end

      put "/api/me" do
        person.update!(name: json["name"])
        answer(me)
      end

      # A hint that was read is not shown again.
      put "/api/me/hints/:name" do |name|
        person.read_hint(name)
        answer(session_state(person))
      end

      # Whoever is signed in with the old one elsewhere is signed out.
      put "/api/me/password" do
        now, fresh = json.values_at("now", "password")
        unless known(person.login, now)
          refuse(422, "Your password is another one than this. Nothing was changed.")
        end
        Models::Record.transaction do
          person.update!(password: fresh)
          person.sign_ins.where.not(id: sign_in.id).end_all
          ended = json["tokens"] ? person.access_tokens.destroy_all.size : 0
          and_tokens = ", and ended #{ended} of their tokens" if ended.positive?
          Models::HistoryEntry.write(nil, person, "account", "#{person.name} changed their password#{and_tokens}")
        end
        answer(me)
      end

      # Everywhere but here.
      delete "/api/me/sessions" do
        person.sign_ins.where.not(id: sign_in.id).end_all
        answer(me)
      end

      delete "/api/me/sessions/:item" do
        person.sign_ins.where(id: params["item"]).end_all
        answer(me)
      end

      helpers do
        def me
          {
            **person.slice(:id, :name, :login, :owner),
            sessions: person.sign_ins.live.order(seen_at: :desc).map { |one| Views::People.sign_in(one, sign_in) }
          }
        end
      end
    end
  end
end
