# frozen_string_literal: true

module Fobrel
  module Api
    # A person's tokens for programs. Only somebody who signed in with their password may make one.
    class Tokens < Base
      # A token is shown once and kept nowhere.
      set :replies_kept, false

      before("/api/tokens*") {
        raise Halt.new(403, "A token cannot be used for tokens. Sign in with your password.") if token?
      }

      get "/api/tokens" do
        answer({tokens: person.access_tokens.order(:id).map { view(_1) }})
      end

      post "/api/tokens" do
        raise Halt.new(422, "You have 20 tokens already. Take one back first.") if person.access_tokens.count >= 20
        record, token = Models::AccessToken.issue(person, text(json, "name"))
        answer(view(record).merge(token:), 201)
      end

      delete "/api/tokens/:id" do
        person.access_tokens.find(number(params["id"])).destroy!
        answer({ok: true})
      end

      helpers do
        def view(token)
          {id: token.id, name: token.name, at: token.created_at.iso8601, used_at: token.last_used_at&.iso8601}
        end
      end
    end
  end
end
