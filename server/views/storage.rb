# frozen_string_literal: true

module Fobrel
  module Views
    # What takes room, what the night takes away, and how busy the server is.
    module Storage
      WAITING = <<~SQL
        SELECT job_class, count(*), coalesce(extract(epoch FROM now() - min(run_at)), 0)
        FROM que_jobs
        WHERE finished_at IS NULL AND expired_at IS NULL AND run_at <= now()
        GROUP BY 1 ORDER BY 1
      SQL
      private_constant :WAITING

      class << self
        # @param library [Models::Library]
        # @return [Hash] as openapi.yaml describes Storage
        def of(library)
          storage = Reports::Storage.new(library)
          {
            rules: storage.days.map { |key, days| rule(key, days) },
            always: Reports::Storage::ALWAYS.values,
            room: storage.room,
            hour: Jobs::CleanUp::HOUR,
            database: Models::Cleaning.size,
            cleanings: Models::Cleaning.includes(:person).order(id: :desc).limit(10).map { |one| cleaning(one) },
            work:,
            processes: Models::Pulse.now.map { |one| {kind: one.kind, pid: one.pid, **one.said.symbolize_keys} }
          }
        end

        private

        def rule(key, days)
          known = Reports::Storage::RULES[key]
          {key:, title: Reports::Storage.title(key), days:, usual: known.usual, never: known.never}
        end

        def cleaning(one)
          {
            at: one.created_at.iso8601,
            ended_at: one.ended_at&.iso8601,
            by: one.person&.name,
            before: one.before,
            after: one.after,
            took: one.took.map { |key, count| {title: Reports::Storage.title(key), count:} }
          }
        end

        # What waits in the queue, by kind.
        def work
          Models::Record.connection.select_rows(WAITING).map do |kind, count, oldest|
            {kind: kind.demodulize, count: count.to_i, oldest: oldest.to_f.round}
          end
        end
      end
    end
  end
end
