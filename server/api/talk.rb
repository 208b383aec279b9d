# frozen_string_literal: true

module Fobrel
  module Api
    # What people say about brushes, releases and proposals, and what of all that concerns one.
    module Talk
      extend Sinatra::Extension

      SHOWN = 200
      NOTICES = 100

      get "/api/libraries/:library/talk/:about/:item" do
        thing = spoken_of
        found = Models::Comment.where(
          about: params["about"],
          about_id: thing.id
        ).includes(:person).order(:id).last(SHOWN)
        answer({comments: found.map { |one| Views::Proposals.comment(one) }})
      end

      post "/api/libraries/:library/talk/:about/:item" do
        thing = spoken_of
        said = Actions::Say.call(library:, person:, about: params["about"], thing:, words: json)
        answer(Views::Proposals.comment(said), 201)
      end

      # One's own words are taken back by oneself only.
      delete "/api/libraries/:library/comments/:item" do
        Models::Comment.where(library:, person:).find(params["item"]).destroy!
        answer({ok: true})
      end

      get "/api/inbox" do
        found = person.notices.includes(:library).where(library_id: person.memberships.select(:library_id))
        answer(
          {
            notices: found.order(id: :desc).limit(NOTICES).map { |one| Views::Proposals.notice(one) },
            unseen: found.unseen.count,
            kinds: Models::Notice::WANTED.map { |name, title|
              {name:, title:, wanted: !person.notices_off.include?(name)}
            }
          }
        )
      end

      # Those up to one of them are seen now.
      post "/api/inbox/seen" do
        person.notices.unseen.where(id: ..json["up_to"]).update_all(seen_at: Time.current)
        answer({ok: true})
      end

      put "/api/inbox" do
        person.update!(notices_off: Models::Notice::WANTED.keys - json["wanted"])
        answer({ok: true})
      end

      helpers do
        # What is spoken of belongs to the library that the address names.
        def spoken_of
          here = library
          found = case params["about"]
          when "preset" then here.presets.find(params["item"])
          when "release" then Models::Release.listed.where(bundle_id: here.bundles.select(:id)).find(params["item"])
          else here.proposals.find(params["item"])
          end
          seen = !found.is_a?(Models::Proposal) || found.person == person || membership(here.id).role == "lead"
          raise ActiveRecord::RecordNotFound unless seen
          found
        end
      end
    end
  end
end
