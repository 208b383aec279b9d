# frozen_string_literal: true

module Fobrel
  module Actions
    # Makes a library; whoever makes it is its lead.
    class MakeLibrary < Deed
      def initialize(person:, kind:, name:, description:)
        @person = person
        @words = {kind:, name:, description:}
      end

      # @return [Models::Membership]
      # @raise [ActiveRecord::RecordInvalid]
      def call
        raise Core::Problem, "A library needs a name." if Core::Names.clean(@words[:name]).empty?
        library = Models::Library.create!(**@words)
        write_down(library, @person, "library", "“#{library.name}” made")
        library.memberships.create!(person: @person, role: "lead")
      end
    end
  end
end
