# frozen_string_literal: true

module Fobrel
  module Actions
    # Somebody leaves a library. What they made stays; their drafts stay theirs, or go to another.
    class LeaveLibrary < Deed
      # @param member [Integer] who leaves
      # @param drafts_to [Integer, nil] another person of the library
      def initialize(library:, person:, member:, drafts_to:)
        @library = library
        @person = person
        @member = @library.memberships.find_by!(person_id: member)
        @heir = drafts_to && @library.memberships.find_by!(person_id: drafts_to).person
      end

      # @return [Models::HistoryEntry]
      # @raise [Core::Problem]
      def call
        @library.hold
        leaver = @member.person
        raise Core::Problem, "“#{@library.name}” is their own. They stay in it." if @library.person_id == leaver.id
        LastLead.check(@library, leaver)
        given = @heir ? hand_on(leaver) : 0
        @member.destroy!
        leaver.access_tokens.where(library: @library).destroy_all
        Models::FollowRight.end_without_lead([@library], by: @person)
        write_down(
          @library,
          @person,
          "people",
          [said(leaver), ("#{brushes(given)} handed on to #{@heir.name}" if @heir)]
                    .compact.join("; their drafts of "),
          about: [leaver]
        )
      end

      private

      def said(leaver) = (leaver == @person) ? "#{leaver.name} left" : "#{leaver.name} taken out"

      # Where the heir has a draft of their own, theirs stays and the other one too.
      def hand_on(leaver)
        drafts = Models::Draft.joins(:preset).where(presets: {library_id: @library.id}, person: leaver)
        taken = Models::Draft.where(person: @heir, preset_id: drafts.select(:preset_id)).pluck(:preset_id)
        here = drafts.where.not(preset_id: taken).pluck(:preset_id)
        Models::Tuning.where(person: @heir, preset_id: here).destroy_all
        [Models::Tuning, Models::Draft].each { |model|
          model.where(person: leaver, preset_id: here).update_all(person_id: @heir.id)
        }
        here.size
      end
    end
  end
end
