# frozen_string_literal: true

module Fobrel
  module Views
    # Seats and templates: their plans, what lies in their folders, and all of them in one picture.
    module Seats
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
        # @param seat [Models::Seat]
        # @return [Hash] as openapi.yaml describes Seat
        def line(seat)
          state = Models::SeatState.of(seat)
          {
            **seat.slice(*WORDS),
            folder: seat.folder,
            state: seat.template ? "template" : state.word,
            said: seat.template ? "" : state.said,
            person: seat.person&.name,
            differences: seat.parent ? seat.plan_changes.size + seat.own_keys.size : 0,
            count: seat.items.size,
            handed_out_at: seat.handed_out_at&.iso8601
          }
        end

        # @param seat [Models::Seat]
        # @return [Hash] as openapi.yaml describes SeatDetail
        def detail(seat)
          found = Finding::StartPlan.new(seat)
          state = Models::SeatState.of(seat)
          given = seat.parent ? seat.parent.lines : []
          {
            **line(seat),
            path: "var/seats/#{seat.folder}",
            above: seat.ancestors.map { |one| one.slice(:id, :name) },
            below: seat.template ? seat.below.map(&:name) : [],
            lines: found.lines.map { |one| named(one, seat, given) },
            out: taken_out(seat, given),
            key_changes: seat.parent ? seat.own_keys.keys : [],
            clashes: found.keys.clashes.map(&:to_h),
            load: load(seat, found),
            changed: !seat.template && state.changed?,
            plans: plans(seat),
            found: found_there(seat),
            found_at: seat.found_at&.iso8601,
            seen_at: seat.seen_at&.iso8601,
            report: seat.report && report(seat),
            events: seat.events.includes(:person).order(id: :desc).limit(60).map { |one| event(one) }
          }
        end

        # All seats in one picture: what lies in each folder, against its plan.
        #
        # @param library [Models::Library]
        # @return [Hash] as openapi.yaml describes SeatTable
        def table(library)
          seats = Models::Seat.with_handed(library.seats.in_use.includes(:parent).order(:name).to_a)
          rows = seats.map { |seat| row(seat) }
          names = rows.flat_map { |one| one[:cells].map { |cell| cell.slice(:id, :name) } }.uniq { _1[:id] }
          {
            brushes: names.sort_by {
              _1[:name].downcase
            },
            seats: rows,
            sentence: sentence(rows),
            reserved_keys: library.reserved_keys
          }
        end

        # @param plan [Models::SeatPlan]
        # @return [Hash] who handed it out, when, why, and how many brushes
        def handed_out(plan)
          {
            by: plan.person&.name,
            why: plan.why,
            at: plan.created_at.iso8601,
            count: Layers::PARTS.sum { |part| plan.document[part].size }
          }
        end

        private

        def named(one, seat, given)
          line = one.line
          change = seat.plan_changes.find { |entry| entry.dig("put", "thing") == line.thing }
          {
            **line.to_h.slice(:thing, :part, :section, :at, :replaces),
            title: one.title,
            at_title: one.at,
            newest: one.newest,
            pin: one.pin,
            problem: one.problem,
            from: (seat.parent && given.any? { _1.thing == line.thing }) ? source(seat, line.thing) : nil,
            change: (seat.parent && change) ? Layers.kind(change, given) : nil,
            brushes: one.brushes.map { |brush| brush(brush) }
          }
        end

        # The template nearest to the studio's that brings it.
        def source(seat, thing) = seat.ancestors.reverse.find { |one| one.lines.any? { _1.thing == thing } }&.name

        def brush(one)
          {
            id: one.id,
            preset: one.preset_id,
            name: one.name,
            fingerprint: one.edition.fingerprint,
            edition: one.edition.number,
            key: one.key,
            twice: !!one.twice,
            newer: one.newer
          }
        end

        def taken_out(seat, given)
          out = seat.plan_changes.filter_map { _1["out"] }
          lines = given.select { out.include?(_1.thing) }
          Finding::StartPlan.new(seat, lines:).lines.map { |one| {thing: one.line.thing, title: one.title} }
        end

        def load(seat, found)
          last = seat.starts.last
          {
            **found.load,
            memory_limit: seat.memory_limit,
            start_limit: seat.start_limit,
            last_ms: last&.fetch("ms"),
            last_memory: last&.fetch("memory"),
            starts: seat.starts.size
          }
        end

        def plans(seat)
          seat.plans.includes(:person).order(number: :desc).limit(50).map do |one|
            {number: one.number, before: !!one.document["before"], **handed_out(one)}
          end
        end

        # What differs, with what a brush was and what is otherwise in it.
        def found_there(seat)
          planned = Layers::PARTS.flat_map { |part| seat.handed&.document&.fetch(part) || [] }.to_h { [_1["id"], _1] }
          (seat.found&.fetch("items", []) || []).map do |item|
            was = planned[item["id"]] if item["kind"] == "altered"
            {
              **item.slice("kind", "path", "name", "was", "now", "left", "beside", "problem").symbolize_keys,
              brush: item.key?("document"),
              planned: was && was["fingerprint"],
              words: was ? words(seat, was, item) : []
            }
          end
        end

        def words(seat, was, item)
          return [] unless item["document"]
          bytes = Models::SeatPlan.bytes(seat.handed.document["files"][was["file"]]["sum"]) or return []
          Core::Preset::Changes.between(
            *[JSON.parse(bytes), item["document"]].map {
              Core::Preset::Preset.restore(_1)
            }
          ).words
        end

        def report(seat)
          handed = seat.handed&.document&.fetch("startup") || []
          planned = handed.to_h { [_1["id"], _1["fingerprint"]] }
          seat.report.merge(
            "loaded" => seat.report["loaded"].map { |one| one.merge("planned" => planned[one["id"]]) }
          )
        end

        def event(one) = {kind: one.kind, said: one.said, by: one.person&.name, at: one.created_at.iso8601}

        def row(seat)
          state = Models::SeatState.of(seat)
          {
            id: seat.id,
            name: seat.name,
            room: seat.room,
            state: state.word,
            said: state.said,
            plan: seat.handed&.number,
            cells: cells(seat),
            also: (seat.found&.fetch("items", []) || []).select {
              _1["kind"] == "foreign"
            }.map { _1["name"] || _1["path"] }
          }
        end

        def cells(seat)
          there = seat.found&.dig("plan")
          plan = (seat.handed&.number == there) ? seat.handed : seat.plans.find_by(number: there)
          return [] unless plan
          newest = Finding::StartPlan.new(seat).brushes.to_h { [_1.id, _1.edition.fingerprint] }
          items = (seat.found["items"] || []).select { _1["id"] }.group_by { _1["id"] }
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
