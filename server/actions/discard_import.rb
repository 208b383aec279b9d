# frozen_string_literal: true

module Fobrel
  module Actions
    # Lets an import go: what was not taken in is forgotten.
    class DiscardImport < Action
      # @param import [Models::Import]
      def initialize(import:)
        @import = import
      end

      # @raise [Core::Problem] while it is being taken in
      def call
        @import.lock!
        if @import.state == "applying"
          raise Core::Problem, "This import is under way. Wait until it has finished."
        end
        task = @import.task
        task.fail("“#{@import.name}” was discarded. Nothing was imported.") unless task.nil? || task.over?
        @import.clear
        @import.items.delete_all unless @import.state == "applied"
        @import.update!(state: "left")
      end
    end
  end
end
