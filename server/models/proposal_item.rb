# frozen_string_literal: true

module Fobrel
  module Models
    # One brush of a proposal, as it was when it was proposed.
    class ProposalItem < Record
      STATES = %w[open accepted returned].freeze

      belongs_to :proposal
      belongs_to :decided_by, class_name: "Fobrel::Models::Person", optional: true
      belongs_to :made, class_name: "Fobrel::Models::Preset", optional: true
      validates :state, inclusion: {in: STATES}

      # @return [Core::Preset::Preset]
      def value = Core::Preset::Preset.restore(document)
    end
  end
end
