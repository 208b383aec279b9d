# frozen_string_literal: true

module Fobrel
  module Api
    # A library follows bundles of others: at their newest release, or at one where it stays.
    module Follows
      extend Sinatra::Extension

      # Bundles with releases, of other libraries that the person sees; and what is followed already.
      get "/api/libraries/:library/follows" do
        here = library
        rights = Models::FollowRight.where(publisher: here).includes(:library, :publisher).order(:id)
        answer(
          {
            follows: here.follows.order(:id).map { |one| Views::Follows.follow(one) },
            proposed: proposed(here),
            asked: Models::FollowRight.where(library: here, state: "asked").map { |one| one.publisher.name },
            rights: rights.map { |one| Views::Follows.right(one) }
          }
        )
      end

      post "/api/libraries/:library/follows" do
        here = library
        bundle = Models::Bundle.where(library_id: memberships.select(:library_id)).find(json["bundle_id"])
        refuse(422, "A library does not follow itself. Nothing was changed.") if bundle.library_id == here.id
        release = json["release_id"] ? bundle.releases.listed.find(json["release_id"]) : newest(bundle)
        answer_followed(here, [[bundle, release]], stays: json.fetch("stays", false))
      rescue ActiveRecord::RecordNotUnique
        refuse(409, "This library follows that bundle already.")
      end

      # All bundles of a library that have a release that counts, in one go.
      post "/api/libraries/:library/follows/whole" do
        here = library
        found = followable(here).select { |bundle, _| bundle.library_id == json["library_id"] }
        if found.empty?
          refuse(
            422,
            "There is nothing of that library to follow that is not followed yet. Nothing was changed."
          )
        end
        answer_followed(here, found)
      rescue ActiveRecord::RecordNotUnique
        refuse(409, "Somebody began to follow one of these at this moment. Nothing was changed. Look again.")
      end

      put "/api/follows/:id" do
        follow = of_library(Models::Follow)
        answer(Views::Follows.follow(Actions::ChangeFollow.call(follow:, person:, stays: json["stays"])))
      end

      # A lead of the publisher decides who follows.
      put "/api/libraries/:library/follow-rights/:item" do |_, item|
        right = Models::FollowRight.where(publisher: library).find(item)
        state, reason = json["state"], json.fetch("reason", "")
        answer(Views::Follows.right(Actions::DecideFollowRight.call(right:, person:, state:, reason:)))
      end

      # The brushes stay, as the library's own.
      delete "/api/follows/:id" do
        Actions::ChangeFollow.call(follow: of_library(Models::Follow), person:)
        answer({ok: true})
      end

      # What a release would change here.
      get "/api/follows/:id/update" do
        follow = of_library(Models::Follow)
        release = params["release"] ? follow.bundle.releases.listed.find(params["release"]) : newest(follow.bundle)
        rows = Actions::TakeRelease.new(follow:, person:, release:).rows
        answer({release: Views::Follows.release(release), rows: rows.map { |row| Views::Follows.row(row) }})
      end

      post "/api/follows/:id/update" do
        follow = of_library(Models::Follow)
        release = follow.bundle.releases.listed.find(json["release_id"])
        only, choices = json["only"], json.fetch("choices", {})
        answer_entry(Actions::TakeRelease.call(follow:, person:, release:, only:, choices:))
      end

      # One side of a conflict, or both together, along the sample stroke of the brush list.
      get "/api/follows/:id/strips/:item.png" do |_, item|
        follow = of_library(Models::Follow)
        release = follow.bundle.releases.listed.find(params["release"])
        sides = Actions::TakeRelease.new(follow:, person:, release:).sides(item)
        value = sides[params["side"]] || raise(ActiveRecord::RecordNotFound)
        greatest = sides.values.compact.map { |one| Core::Stroke::Strip.greatest(one) }.max
        assets = Models::Asset.at_hand(value)
        halt_png Core::Apart.call(Core::Stroke::Strip, :png, value, assets:, beside: greatest)
      end

      get "/api/libraries/:library/consistency" do
        here = library
        ids = if params["bundle"]
          here.bundles.find(params["bundle"]).preset_ids_in_order
        elsif params["set"]
          here.brush_sets.find(params["set"]).preset_ids_in_order
        end
        found = Finding::Consistency.new(here, ids:)
        Models::SpreadDay.keep(here, found) unless ids
        answer(
          {
            developed: Models::SpreadDay.of(here),
            sentence: found.sentence,
            states: Finding::Consistency::STATES,
            **found.to_h
          }
        )
      end

      post "/api/libraries/:library/consistency/reminders" do
        answer({told: Actions::RemindFollowers.call(library:, person:)})
      end

      helpers do
        def newest(bundle)
          Models::Follow.new(bundle:).newest ||
            refuse(422, "“#{bundle.name}” has no release that counts. Nothing was changed. Ask for one there.")
        end

        def answer_followed(here, wanted, stays: false)
          made = Actions::BeginToFollow.call(library: here, person:, wanted:, stays:)
          answer({follows: made.map { |one| Views::Follows.follow(one.reload) }, asked: made.empty?}, 201)
        end

        # @return [Array<Array(Models::Bundle, Models::Release)>]
        def followable(here)
          mine = memberships.where.not(library_id: here.id).select(:library_id)
          Models::Bundle.where(library_id: mine).where.not(id: here.follows.select(:bundle_id))
            .includes(:library).order(:name).filter_map { |bundle|
              release = Models::Follow.new(bundle:).newest
              release && [bundle, release]
            }
        end

        def proposed(here)
          followable(here).map do |bundle, release|
            {
              **bundle.slice(:id, :name, :library_id),
              library: bundle.library.name,
              release: Views::Follows.release(release)
            }
          end
        end
      end
    end
  end
end
