# frozen_string_literal: true

module Fobrel
  module Actions
    # A library begins to follow bundles of another and takes a release of each. It needs the right to do so; where it
    # has none, whoever also leads the publisher grants it by following, and anybody else asks for it.
    class BeginToFollow < Action
      # @param library [Models::Library] that follows
      # @param wanted [Array<Array(Models::Bundle, Models::Release)>] of one publisher
      # @param stays [Boolean] at that release, without being told of newer ones
      def initialize(library:, person:, wanted:, stays: false)
        @library = library
        @person = person
        @wanted = wanted
        @stays = stays
      end

      # @return [Array<Models::Follow>] none where the right was only asked for
      # @raise [Core::Problem]
      def call
        refuse_withdrawn
        return [] unless granted?
        @wanted.map do |bundle, release|
          @library.follows.create!(bundle:, person: @person, stays: @stays).tap { |follow|
            TakeRelease.call(follow:, person: @person, release:)
          }
        end
      end

      private

      def publisher = @publisher ||= @wanted.first.first.library

      def refuse_withdrawn
        @wanted.each { |bundle, release| TakeRelease.refuse_withdrawn(bundle, release) }
      end

      # @return [Boolean] whether the right is there now; false where it was asked for
      def granted?
        right = Models::FollowRight.find_or_initialize_by(publisher:, library: @library)
        return true if right.granted?
        if publisher.memberships.exists?(person: @person, role: "lead")
          right.finish("granted", by: @person)
          return true
        end
        ask(right)
        false
      end

      def ask(right)
        raise Core::Problem, "#{right.why_not} Ask a lead there." if right.persisted? && right.state != "asked"
        return if right.persisted?
        right.update!(state: "asked", asked_by: @person)
        leads = publisher.people.here.where(memberships: {role: "lead"}).to_a
        text = "#{@person.name} asks whether “#{@library.name}” may follow bundles of “#{publisher.name}”"
        Models::Notice.tell(
          leads,
          library: publisher,
          kind: "release",
          text:,
          path: "/sharing/following",
          except: @person
        )
        Models::Live.tell(what: "library", library: publisher.id)
      end
    end
  end
end
