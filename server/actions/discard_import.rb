# frozen_string_literal: true

module Fobrel
  module Actions
    # Discards an import: what was not imported is forgotten.
    class DiscardImport < Action
      # @param import [Models::Import]
      def initialize(import:)
        @import = import
      end

      # @raise [Core::Problem] while it is being imported
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
