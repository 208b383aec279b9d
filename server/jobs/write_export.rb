# frozen_string_literal: true

module Fobrel
  module Jobs
    # Writes an export that takes long; its file waits in Exports.
    class WriteExport < Job
      private

      def work(about)
        wish, goes_to = about.fetch_values("wish", "goes_to")
        Models::Record.transaction(requires_new: true) do
          made = Actions::Action.telling(progress) {
            Actions::ExportBrushes.call(library: @task.library, person: @task.person, wish:, goes_to:)
          }
          export = Models::Export.find(made.id)
          export.keep(made.io)
          made.io.close
          result = {export: export.id, file: export.file, size: export.size}
          @task.update!(about: about.except("wish").merge("result" => result))
          days = Models::Export::WAITS.in_days.round
          @task.finish("“#{export.file}” is written. It waits in Exports for #{days} days.")
        end
      end
    end
  end
end
