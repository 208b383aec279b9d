# frozen_string_literal: true

module Fobrel
  module Actions
    # Makes somebody lead, artist or guest of a library. There is always a lead.
    class ChangeRole < Deed
      # @param member [Integer] whose role; a person
      def initialize(library:, person:, member:, role:)
        @library = library
        @person = person
        @member = Models::Person.find(member)
        @role = role
      end

      # @return [Models::HistoryEntry]
      # @raise [Core::Problem]
      def call
        @library.hold
        found = @library.memberships.find_or_initialize_by(person: @member)
        # Only whoever runs the studio comes in by themselves, where nobody leads.
        raise ActiveRecord::RecordNotFound if found.new_record? && !(@member == @person && @person.owner)
        LastLead.check(@library, @member) unless @role == "lead"
        before = found.role
        found.update!(role: @role)
        Models::FollowRight.end_without_lead([@library], by: @person)
        Models::Notice.tell(
          [@member],
          library: @library,
          kind: "people",
          except: @person,
          path: "/library/people",
          text: "You are #{@role} in “#{@library.name}” now"
        )
        write_down(@library, @person, "people", said(before), about: [@member])
      end

      private

      def said(before)
        before ? "#{@member.name}: #{before} → #{@role}" : "#{@member.name} took over as #{@role}"
      end
    end
  end
end
