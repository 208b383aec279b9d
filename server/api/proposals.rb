# frozen_string_literal: true

module Fobrel
  module Api
    # Brushes go from one library to another: taken by whoever may, or proposed to those who decide.
    module Proposals
      extend Sinatra::Extension

      SHOWN = 100

      # Into this library, of another one that the person sees.
      post "/api/libraries/:library/taken" do
        taken = Actions::TakeBrushes.call(library:, person:, presets: theirs(json["preset_ids"]))
        answer_entry(taken.entry, 201, preset_ids: taken.made.map(&:id), here: taken.here)
      end

      get "/api/libraries/:library/proposals" do
        proposals = library.proposals.includes(:person, :items).order(id: :desc).limit(SHOWN)
        proposals = proposals.where(person:) unless membership(params["library"]).role == "lead"
        answer({proposals: proposals.map { |one| Views::Proposals.line(one) }})
      end

      post "/api/libraries/:library/proposals" do
        picked = Actions::ProposeBrushes.picked(theirs(json["preset_ids"]), person, json.fetch("drafts", false))
        proposal = Actions::ProposeBrushes.call(library:, person:, picked:, sentence: json.fetch("sentence", ""))
        answer(Views::Proposals.line(proposal), 201)
      end

      get "/api/proposals/:id" do
        answer(Views::Proposals.detail(proposal_here))
      end

      # Whoever proposed may think better of it.
      delete "/api/proposals/:id" do
        proposal = proposal_here
        refuse(403, "Only #{proposal.person.name} can withdraw this proposal.") unless proposal.person == person
        proposal.with_lock do
          refuse(409, "It is decided already.") unless proposal.state == "open"
          proposal.update!(withdrawn_at: Time.current)
          said = "#{proposal.person.name} withdrew a proposal by #{proposal.items.size}"
          Models::HistoryEntry.write(proposal.library, person, "proposal", said)
        end
        Models::Live.tell(what: "library", library: proposal.library_id)
        answer(Views::Proposals.line(proposal))
      end

      get "/api/proposals/:id/items/:item" do
        proposal = proposal_here
        item = proposal.items.find(params["item"])
        found = (item.state == "open") ? Finding::Resembling.new(proposal.library).of(item.value) : []
        here = proposal.library.presets.where(id: found.pluck(:id)).includes(:current_version).index_by(&:id)
        beside = found.map { |one|
          {title: "#{one[:name]}, as it is here", document: here[one[:id]].current_version.document}
        }
        answer({brushes: [{title: "as proposed", document: item.document}, *beside]})
      end

      post "/api/proposals/:id/items/:item" do
        item = proposal_here.items.find(params["item"])
        answer_entry(Actions::DecideProposal.call(item:, person:, wish: json))
      end

      # The proposed brush, or one of this library, along any sample stroke.
      get "/api/proposals/:id/items/:item/strip.png" do
        proposal = proposal_here
        value = proposal.items.find(params["item"]).value
        other = params["beside"] && proposal.library.presets.find(params["beside"]).current_version.value
        shown = other || value
        greatest = [value, *other].map { |one| Core::Stroke::Strip.greatest(one) }.max
        way = way({"sample" => params["sample"], "ground" => params["ground"]})
        assets = Models::Asset.at_hand(shown)
        halt_png Core::Apart.call(Core::Stroke::Strip, :png, shown, assets:, beside: greatest, **way)
      end

      helpers do
        # Brushes of one library that the person sees, in the order asked for.
        def theirs(ids)
          found = Models::Preset.shown.where(id: ids, library_id: memberships.select(:library_id))
            .includes(:current_version, :library, :tags).index_by(&:id)
          refuse(404, "Some of these brushes are not there, or not yours to see.") unless ids.uniq.all? {
            found.key?(_1)
          }
          ids.uniq.map { |id| found[id] }
        end

        # A proposal is seen by who made it and by those who decide.
        def proposal_here
          proposal = Models::Proposal.includes(:library, :person, items: %i[decided_by]).find(params["id"])
          member = membership(proposal.library_id)
          raise ActiveRecord::RecordNotFound unless proposal.person == person || member.role == "lead"
          proposal
        end
      end
    end
  end
end
