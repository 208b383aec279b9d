# frozen_string_literal: true

module Fobrel
  module Actions
    # Begins to apply an import, if its plan is still the one that was looked at.
    class Apply < Action
      # @param stamp [String] of the plan that was looked at
      def initialize(import:, person:, stamp:)
        @import = import
        @person = person
        @stamp = stamp
      end

      # @return [Models::Import]
      # @raise [Overtaken] when the library has changed since
      def call
        @import.lock!
        unless @import.state == "planned"
          raise Core::Problem,
            "This import has already been decided. Nothing was changed."
        end
        unless Models::Import.stamp(@import.plan(@person)) == @stamp
          raise Overtaken,
            "The library has changed since this preview. Nothing was imported. Check the preview again."
        end
        @import.update!(state: "applying")
        @import.update!(
          task: Jobs::ApplyImport.begin(
            library: @import.library,
            person: @person,
            about: {"import" => @import.id},
            message: "Importing #{@import.name}"
          )
        )
        @import
      end
    end
  end
end
