# frozen_string_literal: true

module Fobrel
  module Api
    # A person's tokens for programs. Only somebody who signed in with their password may make one.
    module Tokens
      extend Sinatra::Extension

      MOST = 20

      before("/api/tokens*") do
        refuse(403, "A token cannot be used for tokens. Sign in with your password.") if token?
      end

      get "/api/tokens" do
        answer({tokens: person.access_tokens.order(:id).map { |token| token_view(token) }})
      end

      post "/api/tokens" do
        refuse(422, "You have #{MOST} tokens already. Take one back first.") if person.access_tokens.count >= MOST
        record, token = Models::AccessToken.issue(person, json["name"], **limits_sent)
        Models::HistoryEntry.write(nil, person, "token", "The token “#{record.name}” made: #{record.scope}")
        answer({**token_view(record), token:}, 201)
      end

      delete "/api/tokens/:id" do
        gone = person.access_tokens.find(params["id"]).destroy!
        Models::HistoryEntry.write(nil, person, "token", "The token “#{gone.name}” was revoked")
        answer({ok: true})
      end

      helpers do
        def token_view(token)
          {
            id: token.id,
            name: token.name,
            scope: token.scope,
            limit: token.desk&.name || token.library&.name,
            at: token.created_at.iso8601,
            used_at: token.last_used_at&.iso8601,
            ends_at: token.ends_at&.iso8601
          }
        end

        # What is named must be theirs to see.
        def limits_sent
          desk = json["desk"] && of_library_any(Models::Desk, json["desk"])
          library = json["library"] && person.libraries.find(json["library"])
          {scope: json.fetch("scope", "write"), desk:, library:, ends_at: json["days"]&.days&.from_now}
        end

        def of_library_any(model, id)
          model.where(library_id: person.memberships.select(:library_id)).find(id)
        end
      end
    end
  end
end
