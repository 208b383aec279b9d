# frozen_string_literal: true

module Fobrel
  module Views
    # Offers, and what is said about things.
    module Offers
      class << self
        # @param offer [Models::Offer]
        # @return [Hash] as openapi.yaml describes Offer
        def line(offer)
          names = offer.items.map { |item| item.document["name"] }
          {
            **offer.slice(:id, :sentence),
            by: offer.person.name,
            by_id: offer.person_id,
            state: offer.state,
            names: names.first(3),
            count: names.size,
            left: offer.items.count { |item| item.state == "open" },
            at: offer.created_at.iso8601
          }
        end

        # @return [Hash] as openapi.yaml describes OfferDetail
        def detail(offer)
          found = Finding::Resembling.new(offer.library)
          {**line(offer), items: offer.items.map { |item| item(item, found) }}
        end

        # @param comment [Models::Comment]
        # @return [Hash] as openapi.yaml describes Comment
        def comment(comment)
          {
            **comment.slice(:id, :edition, :x, :y, :text),
            fingerprint: comment.pointed_at,
            by: comment.person.name,
            by_id: comment.person_id,
            at: comment.created_at.iso8601
          }
        end

        # @param notice [Models::Notice]
        # @return [Hash] as openapi.yaml describes Notice
        def notice(notice)
          {
            **notice.slice(:id, :kind, :text),
            library: notice.library.name,
            path: "/#{notice.library_id}#{notice.path}",
            at: notice.created_at.iso8601,
            seen: !notice.seen_at.nil?
          }
        end

        private

        def item(item, found)
          {
            **item.slice(:id, :fingerprint, :state, :reason, :edition),
            name: item.document["name"],
            size: item.value["mark", "size", "base"].to_f,
            came_from: item.came_from.slice("library_name", "name", "edition", "draft"),
            made: item.made_id,
            decided_by: item.decided_by&.name,
            decided_at: item.decided_at&.iso8601,
            resembles: (item.state == "open") ? found.of(item.value) : []
          }
        end
      end
    end
  end
end
