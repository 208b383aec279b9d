# frozen_string_literal: true

module Fobrel
  module Jobs
    # Applies an import as its plan says, then paints what is new.
    class ApplyImport < Job
      def self.needs(_about) = :bring

      # So many are imported within seconds.
      FEW = 200
      # About how long a brush takes, and a place in a set, seconds (two cores of 2026).
      EACH = 0.003
      PLACE = 0.0006
      private_constant :FEW, :EACH, :PLACE

      # @param brushes [Integer] that come
      # @param places [Integer] in sets
      # @return [Integer] seconds, about
      def self.seconds(brushes, places) = (brushes * EACH + places * PLACE).ceil

      def self.short?(about) = Models::ImportItem.where(import_id: about["import"]).count <= FEW

      private

      def work(about)
        @import = Models::Import.find(about.fetch("import"))
        Models::Record.transaction(requires_new: true) do
          @import.lock!
          next discard_import unless @import.state == "applying"
          Actions::ImportBrushes.call(import: @import, person: @task.person, progress:)
          @task.finish(
            @import.history_entry ? "Imported. #{@import.history_entry.summary}" : "Everything in it is here " \
              "already. Nothing was added."
          )
        end
        PaintStrips.enqueue(@import.history_entry.what_changed.ids_that_came("presets")) if @import.history_entry
      end

      def discard_import = @task.fail("“#{@import.name}” was discarded. Nothing was imported.")

      def undone = @import&.reload&.update!(state: "planned")
    end
  end
end
