# frozen_string_literal: true

module Fobrel
  module Actions
    # Writes down what went out, so that it can be found and done again.
    class NoteExport < Deed
      def initialize(library:, person:, **what)
        @library = library
        @person = person
        @what = what
      end

      # @return [Models::Export]
      def call
        write_down(
          @library,
          @person,
          "export",
          "#{@what[:name]}: #{brushes(@what[:count])} as #{ExportBrushes::SAID.fetch(@what[:kind])}, to " \
            "#{@what[:goes_to]}"
        )
        Models::Export.create!(library: @library, person: @person, **@what)
      end
    end
  end
end
