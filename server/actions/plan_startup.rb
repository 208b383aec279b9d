# frozen_string_literal: true

module Fobrel
  module Actions
    # Decides what a desk or a template loads at start and has at hand, in which order and on which keys.
    class PlanStartup < Deed
      Layers = Core::Startup::Layers
      Line = Layers::Line
      THING = %r{\A(?:brush/[0-9a-fA-F-]{36}|set/\d{1,18}|bundle/\d{1,18})\z}

      # @param before [Array<Hash>, nil] the lines as the person saw them: what they changed is brought to what is there
      #   now, so that two who plan at once lose nothing
      # @param lines [Array<Hash>] as they shall be
      # @param keys [Hash{String => String, nil}] of the brushes whose keys are changed; nil takes one away
      # @param revert [Array<String>] things, or "key/<brush>", that shall be as the template has them
      def initialize(desk:, person:, lines: nil, before: nil, keys: {}, revert: [])
        @desk = desk
        @person = person
        @wanted = lines&.map { Line.from(_1) }
        @before = before&.map { Line.from(_1) }
        @keys = keys
        @revert = revert
      end

      # What a change would do to the desks below.
      #
      # @return [Array<Hash>] {desk:, added: [names], gone: [names], moved: [names], keys: [names]} of those that change
      def effects
        below = @desk.template ? @desk.below : []
        was = below.to_h { |desk| [desk, look(desk)] }
        assign
        now = below.to_h { |desk| [desk, look(desk, parent: @desk)] }
        below.filter_map { |desk| effect(desk, was[desk], now[desk]) }
      end

      # @return [Models::HistoryEntry]
      def call
        @desk.library.hold
        @desk.lock!
        assign
        changes.watch(Models::Desk.where(id: @desk), %w[plan_changes own_keys]) { @desk.save! }
        @desk.settle
        Models::Live.tell(what: "library", library: @desk.library_id)
        count = Finding::StartupPlan.new(@desk).brushes.size
        write_down(@desk.library, @person, "start-up plan", "#{brushes(count)} in the start-up plan of #{@desk.name}")
      end

      private

      def assign
        @desk.lines = lines if @wanted
        @desk.key_of = @desk.key_of.merge(@keys).compact
        return if @revert.empty?
        @desk.plan_changes = @desk.plan_changes.reject { |one| @revert.include?(one["out"] || one["put"]["thing"]) }
        @desk.own_keys = @desk.own_keys.reject { |id, _| @revert.include?("key/#{id}") }
      end

      def lines
        check(@wanted)
        now = @desk.lines
        return @wanted unless @before
        Layers.apply(now, Layers.differences(@before, @wanted))
      end

      def check(lines)
        things = lines.map(&:thing)
        if things.uniq.size < things.size
          raise Core::Problem,
            "Something stands in the plan twice. Nothing was changed."
        end
        known = @desk.lines.map(&:thing)
        (things - known).each { |thing| check_thing(thing) }
        lines.each do |line|
          raise Core::Problem, "A line is neither at start nor on the shelf." unless Layers::PARTS.include?(line.part)
          check_release(line) if line.at && line.thing.start_with?("bundle/")
        end
      end

      def check_thing(thing)
        raise ActiveRecord::RecordNotFound unless thing.match?(THING)
        kind, id = thing.split("/")
        case kind
        when "brush" then @desk.library.presets.find_by!(document_id: id)
        when "set" then @desk.library.brush_sets.find(id)
        else check_bundle(Models::Bundle.where(library_id: @person.memberships.select(:library_id)).find(id))
        end
      end

      def check_bundle(bundle)
        return if Models::Follow.new(bundle:).newest
        raise Core::Problem,
          "“#{bundle.name}” has no release yet, so a desk cannot have it. Nothing was changed. Release it first."
      end

      def check_release(line)
        Models::Release.listed.find_by!(id: line.at, bundle_id: line.thing.split("/").last)
      end

      # @return [Array] brushes by id, in order; keys
      def look(desk, parent: nil)
        desk = changed_below(desk, parent) if parent
        plan = Finding::StartupPlan.new(desk)
        [plan.brushes.to_h { |one| [one.id, [one.line.part, one.name, one.version.fingerprint]] }, desk.key_of]
      end

      # The desk as it would be, with the changed template above it.
      def changed_below(desk, template)
        copy = Models::Desk.find(desk.id)
        above = copy
        above = above.parent while above.parent && above.parent.id != template.id
        above.association(:parent).target = template
        copy
      end

      def effect(desk, was, now)
        had, has = was.first, now.first
        both = had.keys & has.keys
        order = Layers.differences(
          *[had, has].map { |list|
            both_lines(list, both)
          }
        ).filter_map { _1.dig("put", "thing") }
        found = {
          added: (has.keys - had.keys).map { has[_1][1] },
          gone: (had.keys - has.keys).map { had[_1][1] },
          moved: order.map { has[_1][1] },
          keys: ((was.last.to_a - now.last.to_a) + (now.last.to_a - was.last.to_a)).map { |id, _|
            has[id] && has[id][1]
          }.compact.uniq
        }
        {desk: desk.name, **found} if found.values.any?(&:any?)
      end

      def both_lines(list, both)
        list.slice(*both).sort_by { |id, _| list.keys.index(id) }.map { |id, (part, _)| Line.new(thing: id, part:) }
      end
    end
  end
end
