# frozen_string_literal: true

module Fobrel
  module Models
    # Brushes that somebody proposes to a library, with a sentence why. Each is decided by itself.
    class Proposal < Record
      belongs_to :library
      belongs_to :person
      has_many :items, -> { order(:id) }, class_name: "Fobrel::Models::ProposalItem"
      normalizes :sentence, with: ->(text) { text.strip }
      validates :sentence, length: {maximum: 2000}

      # Brushes of one proposal.
      MOST = 200

      # Not withdrawn, and something is left to decide.
      scope :open, -> { where(withdrawn_at: nil).where(id: ProposalItem.where(state: "open").select(:proposal_id)) }

      # @return [String] "withdrawn", "open" or "answered"
      def state
        return "withdrawn" if withdrawn_at
        (items.any? { |item| item.state == "open" }) ? "open" : "answered"
      end
    end
  end
end
