# frozen_string_literal: true

module Fobrel
  module Views
    # Proposals, and what is said about things.
    module Proposals
      class << self
        # @param proposal [Models::Proposal]
        # @return [Hash] as openapi.yaml describes Proposal
        def line(proposal)
          names = proposal.items.map { |item| item.document["name"] }
          {
            **proposal.slice(:id, :sentence),
            by: proposal.person.name,
            by_id: proposal.person_id,
            state: proposal.state,
            names: names.first(3),
            count: names.size,
            left: proposal.items.count { |item| item.state == "open" },
            at: proposal.created_at.iso8601
          }
        end

        # @return [Hash] as openapi.yaml describes ProposalDetail
        def detail(proposal)
          found = Finding::Resembling.new(proposal.library)
          {**line(proposal), items: proposal.items.map { |item| item(item, found) }}
        end

        # @param comment [Models::Comment]
        # @return [Hash] as openapi.yaml describes Comment
        def comment(comment)
          {
            **comment.slice(:id, :version, :x, :y, :text),
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
            **item.slice(:id, :fingerprint, :state, :reason, :version),
            name: item.document["name"],
            size: item.value["tip", "size", "base"].to_f,
            came_from: item.came_from.slice("library_name", "name", "version", "draft"),
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
