# frozen_string_literal: true

module Fobrel
  module Actions
    # The first person of a new studio, who runs it, and its first library.
    class BeginStudio < Action
      def initialize(login:, name:, password:, library:)
        @words = {login:, name:, password:}
        @library = library
      end

      # @return [Models::Person]
      # @raise [ActiveRecord::RecordInvalid, Core::Problem]
      def call
        Models::Record.connection.execute("LOCK TABLE people IN SHARE ROW EXCLUSIVE MODE")
        raise Core::Problem, "This studio is already set up. Sign in instead." unless Models::Person.none?
        Models::Person.create!(**@words, owner: true).tap do |first|
          MakeLibrary.call(person: first, kind: "project", name: @library, description: "")
          first.own_library!
        end
      end
    end
  end
end
