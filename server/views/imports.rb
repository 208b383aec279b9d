# frozen_string_literal: true

module Fobrel
  module Views
    # What came in, and the plan of taking it in.
    module Imports
      class << self
        # @param import [Models::Import]
        # @return [Hash] as openapi.yaml describes Import
        def brief(import)
          {
            id: import.id,
            name: import.name,
            source: import.source,
            state: import.state,
            by: import.person&.name,
            at: import.created_at.iso8601,
            applied_at: import.applied_at&.iso8601,
            task: import.task && Views.task(import.task),
            entry: import.history_entry && Views.entry(import.history_entry)
          }
        end

        # @param person [Models::Person] for whom it is planned
        # @return [Hash] as openapi.yaml describes ImportPlan
        def whole(import, person)
          rows, items = planned(import, person)
          {
            **brief(import),
            **contents(import),
            groups: groups(import),
            choices: import.choices,
            where: import.choices.fetch("where", {}),
            stamp: items ? Models::Import.stamp(rows) : "",
            seconds: items ? seconds(import, rows) : 0,
            items: shown(rows, items),
            report: import.report
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
            waiting_days: Reports::Storage.new(library).days["waiting"]
          }
        end

        private

        def planned(import, person)
          return [[], nil] unless import.state == "planned"
          list = import.meant
          [import.plan(person, list), list.index_by(&:id)]
        end

        def contents(import)
          words = import.words
          names = ->(kind) { words.fetch(kind, []).map { |one| one["name"] } }
          {
            words: words.slice("name", "version", "author", "licence", "description"),
            sets: names["sets"],
            tags: names["tags"],
            export_templates: names["export_templates"],
            files: import.files.map { |file| {name: file.name, size: file.size} },
            pictures: import.parts.pictures.count,
            backup: words["library"] && backup(import, words["library"])
          }
        end

        # What a backup brings beside brushes, counted.
        def backup(import, library)
          path = "$.versions[*] ? (exists (@.preset))"
          sum = Arel.sql("sum(jsonb_array_length(jsonb_path_query_array(past, '#{path}')))")
          {
            categories: library["categories"].size,
            statuses: library["statuses"].size,
            versions: import.items.reorder(nil).where.not(past: nil).pick(sum).to_i,
            bundles: library["bundles"].size,
            releases: library["bundles"].sum { |bundle| bundle["releases"].size },
            plans: library["plans"].size
          }
        end

        def groups(import)
          counts = import.items.reorder(nil).where(way: "each").group(:group).count
          import.ways.map { |group, way| {group:, way:, count: counts.fetch(group, 0)} }
        end

        # Told before it is begun.
        def seconds(import, rows)
          places = import.words.fetch("sets", []).sum { |set| set.fetch("presets", []).size }
          places = 0 if import.choices.dig("where", "sets") == false
          Jobs::ApplyImport.seconds(rows.count { |row| !%w[leave skip].include?(row.decision) }, places)
        end

        def shown(rows, items)
          # Sizes are told where the two strips are shown beside each other.
          beside = rows.filter_map { |row| row.here&.fingerprint unless row.state == "identical" }
          greatest = Models::Version.greatest(beside)
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
            version: item.version,
            fingerprint: item.fingerprint,
            size: item.document&.dig("tip", "size", "base"),
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
            version: row.here.version,
            greatest: sizes ? [Core::Stroke::Strip.greatest(item.value), greatest[row.here.fingerprint]].compact : nil
          }
        end
      end
    end
  end
end
