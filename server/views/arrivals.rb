# frozen_string_literal: true

module Fobrel
  module Views
    # What came in, and the plan of taking it in.
    module Arrivals
      class << self
        # @param arrival [Models::Arrival]
        # @return [Hash] as openapi.yaml describes Arrival
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

        # @param person [Models::Person] for whom it is planned
        # @return [Hash] as openapi.yaml describes ArrivalPlan
        def whole(arrival, person)
          rows, items = planned(arrival, person)
          {
            **brief(arrival),
            **contents(arrival),
            groups: groups(arrival),
            choices: arrival.choices,
            where: arrival.choices.fetch("where", {}),
            stamp: items ? Models::Arrival.stamp(rows) : "",
            seconds: items ? seconds(arrival, rows) : 0,
            items: shown(rows, items),
            report: arrival.report
          }
        end

        # @param library [Models::Library]
        # @return [Hash] told before anybody meets them
        def limits(library)
          {
            files: Actions::Deliver::MAX_FILES,
            mb: Actions::Deliver::MAX_BYTES / 1024 / 1024,
            picture_mb: Core::Tip::Picture::MAX_BYTES / 1024 / 1024,
            pixels: Core::Tip::Picture::MAX_PIXELS,
            side: Core::Tip::Picture::MAX_SIDE,
            frames: Core::Tip::Picture::MAX_FRAMES,
            waiting_days: Reports::Upkeep.new(library).days["waiting"]
          }
        end

        private

        def planned(arrival, person)
          return [[], nil] unless arrival.state == "planned"
          list = arrival.meant
          [arrival.plan(person, list), list.index_by(&:id)]
        end

        def contents(arrival)
          words = arrival.words
          names = ->(kind) { words.fetch(kind, []).map { |one| one["name"] } }
          {
            words: words.slice("name", "version", "author", "licence", "description"),
            sets: names["sets"],
            tags: names["tags"],
            recipes: names["recipes"],
            files: arrival.files.map { |file| {name: file.name, size: file.size} },
            pictures: arrival.parts.pictures.count,
            backup: words["library"] && backup(arrival, words["library"])
          }
        end

        # What a backup brings beside brushes, counted.
        def backup(arrival, library)
          path = "$.editions[*] ? (exists (@.preset))"
          sum = Arel.sql("sum(jsonb_array_length(jsonb_path_query_array(past, '#{path}')))")
          {
            families: library["families"].size,
            labels: library["labels"].size,
            editions: arrival.items.reorder(nil).where.not(past: nil).pick(sum).to_i,
            bundles: library["bundles"].size,
            releases: library["bundles"].sum { |bundle| bundle["releases"].size },
            plans: library["plans"].size
          }
        end

        def groups(arrival)
          counts = arrival.items.reorder(nil).where(way: "each").group(:group).count
          arrival.ways.map { |group, way| {group:, way:, count: counts.fetch(group, 0)} }
        end

        # Told before it is begun.
        def seconds(arrival, rows)
          places = arrival.words.fetch("sets", []).sum { |set| set.fetch("presets", []).size }
          places = 0 if arrival.choices.dig("where", "sets") == false
          Jobs::ApplyArrival.seconds(rows.count { |row| !%w[leave skip].include?(row.decision) }, places)
        end

        def shown(rows, items)
          # Sizes are told where the two strips are shown beside each other.
          beside = rows.filter_map { |row| row.here&.fingerprint unless row.state == "identical" }
          greatest = Models::Edition.greatest(beside)
          rows.map { |row| item(row, items.fetch(row.coming.key), greatest) }
        end

        def item(row, item, greatest)
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
            unknown: item.fingerprint ? item.value.unknown : [],
            twin: !row.twin.nil?,
            here: row.here && here(row, item, greatest)
          }
        end

        def here(row, item, greatest)
          sizes = item.document && row.state != "identical"
          {
            id: row.here.key,
            name: row.here.name,
            fingerprint: row.here.fingerprint,
            edition: row.here.edition,
            greatest: sizes ? [Core::Stroke::Strip.greatest(item.value), greatest[row.here.fingerprint]].compact : nil
          }
        end
      end
    end
  end
end
