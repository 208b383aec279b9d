# frozen_string_literal: true

module Fobrel
  module Views
    # Desks and templates: their plans, what lies in their folders, and all of them in one picture.
    module Desks
      Layers = Core::Startup::Layers
      WORDS = %i[
        id
        name
        template
        parent_id
        person_id
        platform
        room
        canvas_width
        canvas_height
        key_count
        memory_limit
        start_limit
        away
      ].freeze

      class << self
        # @param desk [Models::Desk]
        # @return [Hash] as openapi.yaml describes Desk
        def line(desk)
          state = Models::DeskState.of(desk)
          {
            **desk.slice(*WORDS),
            folder: desk.folder,
            state: desk.template ? "template" : state.word,
            said: desk.template ? "" : state.said,
            person: desk.person&.name,
            differences: desk.parent ? desk.plan_changes.size + desk.own_keys.size : 0,
            count: desk.items.size,
            sent_at: desk.sent_at&.iso8601
          }
        end

        # @param desk [Models::Desk]
        # @return [Hash] as openapi.yaml describes DeskDetail
        def detail(desk)
          found = Finding::StartupPlan.new(desk)
          state = Models::DeskState.of(desk)
          given = desk.parent ? desk.parent.lines : []
          {
            **line(desk),
            path: "var/desks/#{desk.folder}",
            above: desk.ancestors.map { |one| one.slice(:id, :name) },
            below: desk.template ? desk.below.map(&:name) : [],
            lines: found.lines.map { |one| named(one, desk, given) },
            out: taken_out(desk, given),
            key_changes: desk.parent ? desk.own_keys.keys : [],
            clashes: found.keys.clashes.map(&:to_h),
            load: load(desk, found),
            changed: !desk.template && state.changed?,
            plans: plans(desk),
            found: found_there(desk),
            found_at: desk.found_at&.iso8601,
            seen_at: desk.seen_at&.iso8601,
            report: desk.report && report(desk),
            events: desk.events.includes(:person).order(id: :desc).limit(60).map { |one| event(one) }
          }
        end

        # All desks in one picture: what lies in each folder, against its plan.
        #
        # @param library [Models::Library]
        # @return [Hash] as openapi.yaml describes DeskTable
        def table(library)
          desks = Models::Desk.with_sent(library.desks.in_use.includes(:parent).order(:name).to_a)
          rows = desks.map { |desk| row(desk) }
          names = rows.flat_map { |one| one[:cells].map { |cell| cell.slice(:id, :name) } }.uniq { _1[:id] }
          {
            brushes: names.sort_by {
              _1[:name].downcase
            },
            desks: rows,
            sentence: sentence(rows),
            reserved_keys: library.reserved_keys
          }
        end

        # @param plan [Models::DeskPlan]
        # @return [Hash] who handed it out, when, why, and how many brushes
        def sent(plan)
          {
            by: plan.person&.name,
            why: plan.why,
            at: plan.created_at.iso8601,
            count: Layers::PARTS.sum { |part| plan.document[part].size }
          }
        end

        private

        def named(one, desk, given)
          line = one.line
          change = desk.plan_changes.find { |entry| entry.dig("put", "thing") == line.thing }
          {
            **line.to_h.slice(:thing, :part, :section, :at, :replaces),
            title: one.title,
            at_title: one.at,
            newest: one.newest,
            pin: one.pin,
            problem: one.problem,
            from: (desk.parent && given.any? { _1.thing == line.thing }) ? source(desk, line.thing) : nil,
            change: (desk.parent && change) ? Layers.kind(change, given) : nil,
            brushes: one.brushes.map { |brush| brush(brush) }
          }
        end

        # The template nearest to the studio's that brings it.
        def source(desk, thing) = desk.ancestors.reverse.find { |one| one.lines.any? { _1.thing == thing } }&.name

        def brush(one)
          {
            id: one.id,
            preset: one.preset_id,
            name: one.name,
            fingerprint: one.version.fingerprint,
            version: one.version.number,
            key: one.key,
            twice: !!one.twice,
            newer: one.newer
          }
        end

        def taken_out(desk, given)
          out = desk.plan_changes.filter_map { _1["out"] }
          lines = given.select { out.include?(_1.thing) }
          Finding::StartupPlan.new(desk, lines:).lines.map { |one| {thing: one.line.thing, title: one.title} }
        end

        def load(desk, found)
          last = desk.starts.last
          {
            **found.load,
            memory_limit: desk.memory_limit,
            start_limit: desk.start_limit,
            last_ms: last&.fetch("ms"),
            last_memory: last&.fetch("memory"),
            starts: desk.starts.size
          }
        end

        def plans(desk)
          desk.plans.includes(:person).order(number: :desc).limit(50).map do |one|
            {number: one.number, before: !!one.document["before"], **sent(one)}
          end
        end

        # What differs, with what a brush was and what is otherwise in it.
        def found_there(desk)
          planned = Layers::PARTS.flat_map { |part| desk.handed&.document&.fetch(part) || [] }.to_h { [_1["id"], _1] }
          (desk.found&.fetch("items", []) || []).map do |item|
            was = planned[item["id"]] if item["kind"] == "altered"
            {
              **item.slice("kind", "path", "name", "was", "now", "left", "beside", "problem").symbolize_keys,
              brush: item.key?("document"),
              planned: was && was["fingerprint"],
              words: was ? words(desk, was, item) : []
            }
          end
        end

        def words(desk, was, item)
          return [] unless item["document"]
          bytes = Models::DeskPlan.bytes(desk.handed.document["files"][was["file"]]["sum"]) or return []
          Core::Preset::Changes.between(
            *[JSON.parse(bytes), item["document"]].map {
              Core::Preset::Preset.restore(_1)
            }
          ).words
        end

        def report(desk)
          handed = desk.handed&.document&.fetch("startup") || []
          planned = handed.to_h { [_1["id"], _1["fingerprint"]] }
          desk.report.merge(
            "loaded" => desk.report["loaded"].map { |one| one.merge("planned" => planned[one["id"]]) }
          )
        end

        def event(one) = {kind: one.kind, said: one.said, by: one.person&.name, at: one.created_at.iso8601}

        def row(desk)
          state = Models::DeskState.of(desk)
          {
            id: desk.id,
            name: desk.name,
            room: desk.room,
            state: state.word,
            said: state.said,
            plan: desk.handed&.number,
            cells: cells(desk),
            also: (desk.found&.fetch("items", []) || []).select {
              _1["kind"] == "foreign"
            }.map { _1["name"] || _1["path"] }
          }
        end

        def cells(desk)
          there = desk.found&.dig("plan")
          plan = (desk.handed&.number == there) ? desk.handed : desk.plans.find_by(number: there)
          return [] unless plan
          newest = Finding::StartupPlan.new(desk).brushes.to_h { [_1.id, _1.version.fingerprint] }
          items = (desk.found["items"] || []).select { _1["id"] }.group_by { _1["id"] }
          Layers::PARTS.flat_map { |part|
            plan.document[part].map { |line| cell(line, part, items[line["id"]]&.first, newest[line["id"]]) }
          }
        end

        def cell(line, part, item, newest)
          state = item ? item["kind"] : "same"
          state = "own" if item && item["left"]
          state = "older" if state == "same" && newest && newest != line["fingerprint"]
          {**line.slice("id", "name", "key").symbolize_keys, part:, state:}
        end

        def sentence(rows)
          handed = rows.reject { ["empty", "never sent"].include?(_1[:state]) }
          return "Nothing sent yet." if handed.empty?
          well, others = handed.partition { _1[:state] == "current" }
          "#{well.size} of #{handed.size} #{(handed.size == 1) ? "desk is" : "desks are"} current" \
            "#{"; #{others.map { "#{_1[:name]} #{_1[:state]}" }.join(", ")}" if others.any?}."
        end
      end
    end
  end
end
