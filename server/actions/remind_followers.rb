# frozen_string_literal: true

module Fobrel
  module Actions
    # Tells the leads of libraries that follow this one and are behind. Those that stay where they are, are let be.
    class RemindFollowers < Action
      def initialize(library:, person:)
        @library = library
        @person = person
      end

      # @return [Array<String>] names of the libraries whose leads were told
      def call
        behind = Models::Follow.current.where(bundles: {library_id: @library.id})
          .includes(:library, :bundle).select { |follow| follow.newest && follow.newest.id != follow.release_id }
        behind.each { |follow| tell(follow) }
        behind.map { |follow| follow.library.name }.uniq
      end

      private

      def tell(follow)
        follow.tell_leads(
          "#{@person.name} asks “#{follow.library.name}” to take “#{follow.bundle.name}” #{follow.newest.number}"
        )
      end
    end
  end
end
