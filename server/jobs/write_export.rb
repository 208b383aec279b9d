# frozen_string_literal: true

module Fobrel
  module Jobs
    # Writes an export that takes long; its file waits in Exports.
    class WriteExport < Job
      def self.needs(_about) = :look

      private

      # What is written down of it comes first, by itself: whoever writes the next line of the history must not wait for
      # the file to be kept.
      def work(about)
        wish, goes_to = about.fetch_values("wish", "goes_to")
        made = Actions::Action.telling(progress) {
          Actions::ExportBrushes.call(library: @task.library, person: @task.person, wish:, goes_to:)
        }
        Models::Record.transaction(requires_new: true) { keep(about, Models::Export.find(made.id), made.io) }
      ensure
        made&.io&.close
      end

      def keep(about, export, io)
        export.keep(io)
        result = {export: export.id, file: export.file, size: export.size}
        @task.update!(about: about.except("wish").merge("result" => result))
        days = Models::Export::WAITS.in_days.round
        @task.finish("“#{export.file}” is written. It waits in Exports for #{days} days.")
      end
    end
  end
end
