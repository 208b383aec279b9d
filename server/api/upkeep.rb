# frozen_string_literal: true

module Fobrel
  module Api
    # What takes room, what the night takes away, and how busy the server is. For leads.
    class Upkeep < Base
      get "/api/libraries/:library/upkeep" do
        answer(view(library))
      end

      put "/api/libraries/:library/upkeep" do
        found = library
        days = json["days"]
        raise Halt.new(400, "days must be an object.") unless days.is_a?(Hash)
        Models::Upkeep.new(found).days = days
        answer(view(found))
      end

      post "/api/libraries/:library/upkeep/cleaning" do
        found = library
        raise Halt.new(422, "It is being cleaned already. Nothing else was begun.") if Models::Cleaning.exists?(
          ended_at: nil, created_at: 1.hour.ago..
        )
        Jobs::CleanUp.now(person)
        answer(view(found), 202)
      end

      helpers do
        def view(found)
          upkeep = Models::Upkeep.new(found)
          {
            rules: rules(upkeep),
            always: Models::Upkeep::ALWAYS.values,
            room: upkeep.room,
            hour: Jobs::CleanUp::HOUR,
            database: Models::Cleaning.size,
            cleanings: Models::Cleaning.includes(:person).order(id: :desc).limit(10).map { cleaning(_1) },
            work:,
            processes: Models::Pulse.now.map {
              {kind: _1.kind, pid: _1.pid, **_1.said.symbolize_keys}
            }
          }
        end

        def rules(upkeep)
          upkeep.days.map { |key, days|
            {
              key:,
              title: Models::Upkeep.title(key),
              days:,
              usual: Models::Upkeep::RULES[key].usual,
              never: Models::Upkeep::RULES[key].never
            }
          }
        end

        def cleaning(one)
          {
            at: one.created_at.iso8601,
            ended_at: one.ended_at&.iso8601,
            by: one.person&.name,
            before: one.before,
            after: one.after,
            took: one.took.map { |key, count| {title: Models::Upkeep.title(key), count:} }
          }
        end

        # What waits in the queue, by kind.
        def work
          rows = Models::Record.connection.select_rows(
            "SELECT job_class, count(*), coalesce(extract(epoch FROM now() - min(run_at)), 0) FROM que_jobs WHERE " \
              "finished_at IS NULL AND expired_at IS NULL AND run_at <= now() GROUP BY 1 ORDER BY 1"
          )
          rows.map { |kind, count, oldest| {kind: kind.demodulize, count: count.to_i, oldest: oldest.to_f.round} }
        end
      end
    end
  end
end
