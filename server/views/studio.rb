# frozen_string_literal: true

module Fobrel
  module Views
    # What whoever runs the installation is shown of it, see Reports::Studio too.
    module Studio
      class << self
        # The backups of the whole studio, as far back as is told.
        #
        # @return [Hash] as openapi.yaml describes StudioBackups
        def backups
          list = Models::StudioBackup.includes(:person).order(id: :desc).limit(Models::StudioBackup::LISTED)
          folder = Backups::Folder
          {
            folder: folder.here.path,
            hour: Jobs::CleanUp::HOUR,
            late: Models::StudioBackup.late?,
            days: folder::DAYS,
            weeks: folder::WEEKS,
            months: folder::MONTHS,
            list: list.map { |one| backup(one) }
          }
        end

        # @param one [Models::StudioBackup]
        # @return [Hash] as openapi.yaml describes StudioBackup
        def backup(one)
          times = {at: one.created_at, made_at: one.made_at, tried_at: one.tried_at}
          {
            **one.slice(:id, :file, :problem, :size, :rows, :pictures, :test_problem),
            **times.transform_values { _1&.iso8601 },
            by: one.person&.name,
            under_way: one.ended_at.nil?,
            there: one.there?
          }
        end
      end
    end
  end
end
