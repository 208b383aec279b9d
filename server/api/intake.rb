# frozen_string_literal: true

module Fobrel
  module Api
    # Where files come in: arrivals, their plans, what is decided, and the long work of it.
    class Intake < Base
      get "/api/libraries/:library/arrivals" do
        found = library
        # A backup's words are long.
        light = found.arrivals.select(*(Models::Arrival.column_names - %w[words choices report]))
        answer(
          {
            arrivals: light.where.not(state: %w[open left]).includes(
              :person,
              :task,
              :ledger_entry
            ).order(id: :desc).limit(60).map {
              brief(_1)
            },
            folder: Jobs::WatchedFolder.of(found).delete_prefix("#{ROOT}/"),
            limits: limits(found)
          }
        )
      end

      post "/api/libraries/:library/arrivals" do
        arrival = Models::Arrival.create!(
          library: library,
          person:,
          name: text(json, "name", most: 200),
          source: token? ? "the command line" : "dropped"
        )
        answer(brief(arrival), 201)
      end

      # The file's bytes are the body; large ones are never held in memory.
      put "/api/arrivals/:id/files" do
        found = arrival
        name = params["name"].to_s.dup.force_encoding("UTF-8").scrub.delete("\0").strip
        raise Halt.new(400, "A file needs a name.") if name.empty?
        file = Actions::Deliver.add(found, name:, io: request.body)
        answer({name: file.name, size: file.size})
      end

      post "/api/arrivals/:id/read" do
        found = Actions::Deliver.call(arrival:, person:).reload
        answer(brief(found), 202)
      end

      get "/api/arrivals/:id" do
        answer(whole(arrival))
      end

      put "/api/arrivals/:id" do
        answer(whole(Actions::Decide.call(arrival:, choices: json)))
      end

      post "/api/arrivals/:id/apply" do
        answer(brief(Actions::Apply.call(arrival:, person:, stamp: text(json, "stamp")).reload), 202)
      end

      # What was not taken in is let go.
      delete "/api/arrivals/:id" do
        found = arrival
        Models::Record.transaction do
          found.lock!
          raise Halt.new(422, "This arrival is being taken in. Wait until that is done.") if found.state == "applying"
          found.task&.fail("“#{found.name}” was let go. Nothing of it was taken in.") unless found.task&.over?
          found.clear
          found.items.delete_all unless found.state == "applied"
          found.update!(state: "left")
        end
        answer({ok: true})
      end

      # What a thing in an arrival paints; painted here, for a strip that came along could show anything.
      get %r{/api/arrivals/(\d+)/strips/(\d+)\.png} do |id, item|
        params["id"] = id
        found = arrival.items.find(number(item))
        raise ActiveRecord::RecordNotFound unless found.fingerprint && arrival.whole?(found)
        forever(
          "image/png",
          Models::Strip.png_for(
            found.fingerprint,
            Models::Strip.beside("wall", params["beside"]),
            assets: Models::ArrivalPart::Files.new(arrival)
          ) {
            found.value
          }
        )
      end

      get "/api/libraries/:library/tasks" do
        found = library.tasks.where(person: [person, nil]).where(
          "state IN ('waiting', 'working') OR updated_at > ?", 10.minutes.ago
        ).order(id: :desc).limit(20)
        answer({tasks: found.map { Views.task(_1) }})
      end

      helpers do
        # Told before anybody meets them.
        def limits(found)
          {
            files: Actions::Deliver::MAX_FILES,
            mb: Actions::Deliver::MAX_BYTES / 1024 / 1024,
            picture_mb: Core::Tip::Picture::MAX_BYTES / 1024 / 1024,
            pixels: Core::Tip::Picture::MAX_PIXELS,
            side: Core::Tip::Picture::MAX_SIDE,
            frames: Core::Tip::Picture::MAX_FRAMES,
            waiting_days: Models::Upkeep.new(found).days["waiting"]
          }
        end

        def arrival = @arrival ||= of_library(Models::Arrival)

        def brief(arrival)
          {
            id: arrival.id,
            name: arrival.name,
            source: arrival.source,
            state: arrival.state,
            by: arrival.person&.name,
            at: arrival.created_at.iso8601,
            applied_at: arrival.applied_at&.iso8601,
            task: arrival.task && Views.task(arrival.task),
            entry: arrival.ledger_entry && Views.entry(arrival.ledger_entry)
          }
        end

        def whole(arrival)
          planned = arrival.state == "planned"
          list = planned ? arrival.meant : []
          rows = planned ? arrival.plan(person, list) : []
          items = list.index_by(&:id)
          brief(arrival).merge(
            words: arrival.words.slice("name", "version", "author", "licence", "description"),
            sets: arrival.words.fetch("sets", []).map { _1["name"] },
            tags: arrival.words.fetch("tags", []).map {
              _1["name"]
            },
            recipes: arrival.words.fetch("recipes", []).map { _1["name"] },
            files: arrival.files.map {
              {name: _1.name, size: _1.size}
            },
            pictures: arrival.parts.pictures.count,
            backup: backup(arrival),
            groups: groups(arrival),
            choices: arrival.choices,
            where: arrival.choices.fetch("where", {}),
            stamp: planned ? Models::Arrival.stamp(rows) : "",
            seconds: planned ? seconds(arrival, rows) : 0,
            items: with_sizes(rows).map {
              row(_1, items.fetch(_1.coming.key))
            },
            report: arrival.report
          )
        end

        # Told before it is begun.
        def seconds(arrival, rows)
          places = arrival.words.fetch("sets", []).sum { _1.fetch("presets", []).size }
          Jobs::ApplyArrival.seconds(
            rows.count {
              !%w[leave skip].include?(_1.decision)
            },
            (arrival.choices.dig("where", "sets") == false) ? 0 : places
          )
        end

        def with_sizes(rows)
          @greatest = Models::Edition.greatest(rows.filter_map { _1.here&.fingerprint if _1.state != "identical" })
          rows
        end

        # What a backup brings beside brushes, counted.
        def backup(arrival)
          said = arrival.words["library"] or return
          editions = arrival.items.reorder(nil).where.not(past: nil).pick(
            Arel.sql(
              "sum(jsonb_array_length(jsonb_path_query_array(past, '$.editions[*] ? (exists (@.preset))')))"
            )
          )
          {
            families: said["families"].size,
            labels: said["labels"].size,
            editions: editions.to_i,
            bundles: said["bundles"].size,
            releases: said["bundles"].sum {
              _1["releases"].size
            },
            plans: said["plans"].size
          }
        end

        def groups(arrival)
          counts = arrival.items.reorder(nil).where(way: "each").group(:group).count
          arrival.ways.map { |group, way| {group:, way:, count: counts.fetch(group, 0)} }
        end

        # Sizes are told where the two strips are shown beside each other.
        def sizes(row, item)
          return unless row.here && item.document && row.state != "identical"
          [Core::Stroke::Strip.greatest(item.value), @greatest[row.here.fingerprint]].compact
        end

        def row(row, item)
          {
            id: item.id,
            name: item.name,
            becomes: row.name,
            state: row.state,
            decision: row.decision,
            choices: row.choices,
            sentence: item.sentence,
            source: item.source,
            edition: item.edition,
            fingerprint: item.fingerprint,
            size: item.document&.dig("mark", "size", "base"),
            unknown: (item.fingerprint ? item.value.unknown : []),
            twin: !row.twin.nil?,
            here: row.here && {
              id: row.here.key,
              name: row.here.name,
              fingerprint: row.here.fingerprint,
              edition: row.here.edition,
              greatest: sizes(row, item)
            }
          }
        end
      end
    end
  end
end
