# frozen_string_literal: true

module Fobrel
  module Actions
    # Somebody comes into a library by a link that counts once.
    class AcceptInvitation < Deed
      # @param person [Models::Person, nil] who is signed in; without one, a new person by these words
      def initialize(invitation:, person:, login: nil, name: nil, password: nil)
        @invitation = invitation
        @person = person
        @words = {login:, name:, password:}
      end

      # @return [Models::Person]
      # @raise [ActiveRecord::RecordInvalid, Core::Problem]
      def call
        @invitation.lock!
        raise Overtaken, "Somebody has used this invitation already. Ask for another." if @invitation.used_by_id
        fresh = @person.nil?
        @person ||= newcomer
        library = @invitation.library
        if library.memberships.exists?(person: @person)
          raise Core::Problem, "You are in “#{library.name}” already. The invitation still counts for somebody else."
        end
        library.memberships.create!(person: @person, role: @invitation.role)
        @invitation.update!(used_by: @person)
        write_down(
          library,
          @person,
          "people",
          "#{@person.name} came as #{@invitation.role}, invited by #{@invitation.person.name}",
          about: [@person]
        )
        @person.own_library! if fresh
        @person
      end

      private

      def newcomer
        raise Core::Problem, "Take a name to sign in with and a password, or sign in first." if @words.value?(nil)
        login = Core::Names.login(@words[:login])
        if Models::Person.exists?(login:)
          raise Core::Problem, "Somebody signs in as “#{login}” already. Take another name; or sign in, if it is yours."
        end
        Models::Person.create!(**@words)
      end
    end
  end
end
