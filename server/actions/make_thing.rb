# frozen_string_literal: true

module Fobrel
  module Actions
    # Makes a thing of a library that is no brush: a category, a status, a bundle, an export template, a desk.
    class MakeThing < Deed
      # @param things [ActiveRecord::Relation] of a library
      # @param said [Hash] its columns
      def initialize(things:, person:, said:)
        @things = things
        @person = person
        @said = said
      end

      # @return [Models::Record]
      def call
        made = @things.create!(**@said)
        changes.came(made.class.where(id: made))
        noun = History::Table.of(made.class).noun
        write_down(made.library, @person, noun, "The #{noun} “#{made.name}” made")
        made
      end
    end
  end
end
