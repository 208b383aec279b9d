# frozen_string_literal: true

module Fobrel
  module Api
    # Brushes go from one library to another: taken by whoever may, or offered to those who decide.
    module Offers
      extend Sinatra::Extension

      SHOWN = 100

      # Into this library, of another one that the person sees.
      post "/api/libraries/:library/taken" do
        taken = Actions::TakeBrushes.call(library:, person:, presets: theirs(json["preset_ids"]))
        answer_entry(taken.entry, 201, preset_ids: taken.made.map(&:id), here: taken.here)
      end

      get "/api/libraries/:library/offers" do
        offers = library.offers.includes(:person, :items).order(id: :desc).limit(SHOWN)
        offers = offers.where(person:) unless membership(params["library"]).role == "lead"
        answer({offers: offers.map { |one| Views::Offers.line(one) }})
      end

      post "/api/libraries/:library/offers" do
        picked = Actions::OfferBrushes.picked(theirs(json["preset_ids"]), person, json.fetch("drafts", false))
        offer = Actions::OfferBrushes.call(library:, person:, picked:, sentence: json.fetch("sentence", ""))
        answer(Views::Offers.line(offer), 201)
      end

      get "/api/offers/:id" do
        answer(Views::Offers.detail(offer_here))
      end

      # Whoever offered may think better of it.
      delete "/api/offers/:id" do
        offer = offer_here
        refuse(403, "Only #{offer.person.name} can withdraw this proposal.") unless offer.person == person
        offer.with_lock do
          refuse(409, "It is decided already.") unless offer.state == "open"
          offer.update!(withdrawn_at: Time.current)
          said = "#{offer.person.name} withdrew a proposal by #{offer.items.size}"
          Models::LedgerEntry.write(offer.library, person, "offer", said)
        end
        Models::Live.tell(what: "library", library: offer.library_id)
        answer(Views::Offers.line(offer))
      end

      get "/api/offers/:id/items/:item" do
        offer = offer_here
        item = offer.items.find(params["item"])
        found = (item.state == "open") ? Finding::Resembling.new(offer.library).of(item.value) : []
        here = offer.library.presets.where(id: found.pluck(:id)).includes(:current_edition).index_by(&:id)
        beside = found.map { |one|
          {title: "#{one[:name]}, as it is here", document: here[one[:id]].current_edition.document}
        }
        answer({brushes: [{title: "as proposed", document: item.document}, *beside]})
      end

      post "/api/offers/:id/items/:item" do
        item = offer_here.items.find(params["item"])
        answer_entry(Actions::DecideOffer.call(item:, person:, wish: json))
      end

      # The offered brush, or one of this library, along any trial stroke.
      get "/api/offers/:id/items/:item/strip.png" do
        offer = offer_here
        value = offer.items.find(params["item"]).value
        other = params["beside"] && offer.library.presets.find(params["beside"]).current_edition.value
        shown = other || value
        greatest = [value, *other].map { |one| Core::Stroke::Strip.greatest(one) }.max
        way = way({"trial" => params["trial"], "ground" => params["ground"]})
        assets = Models::Asset.at_hand(shown)
        halt_png Core::Apart.call(Core::Stroke::Strip, :png, shown, assets:, beside: greatest, **way)
      end

      helpers do
        # Brushes of one library that the person sees, in the order asked for.
        def theirs(ids)
          found = Models::Preset.shown.where(id: ids, library_id: memberships.select(:library_id))
            .includes(:current_edition, :library, :tags).index_by(&:id)
          refuse(404, "Some of these brushes are not there, or not yours to see.") unless ids.uniq.all? {
            found.key?(_1)
          }
          ids.uniq.map { |id| found[id] }
        end

        # An offer is seen by who made it and by those who decide.
        def offer_here
          offer = Models::Offer.includes(:library, :person, items: %i[decided_by]).find(params["id"])
          member = membership(offer.library_id)
          raise ActiveRecord::RecordNotFound unless offer.person == person || member.role == "lead"
          offer
        end
      end
    end
  end
end
