# frozen_string_literal: true

module Fobrel
  module Actions
    # A library keeps at least one lead.
    module LastLead
      # @raise [Core::Problem] where nobody else leads it
      def self.check(library, person)
        return unless person.memberships.exists?(library:, role: "lead") && person.last_lead_of.include?(library)
        raise Core::Problem,
          "#{person.name} is the last lead of “#{library.name}”. Nothing was changed. Make somebody else lead first."
      end
    end
  end
end
