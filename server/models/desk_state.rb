# frozen_string_literal: true

module Fobrel
  module Models
    # How a desk stands, in one word and what there is to say: the folder is asked, not what was meant to be in it.
    class DeskState
      WORDS = [
        "empty", "never sent", "current", "out of date", "changed on the desk", "unreachable", "out of use"
      ].freeze

      # @return [String] one of WORDS
      attr_reader :word
      # @return [String] what more there is to say; perhaps empty
      attr_reader :said

      # @param desk [Desk]
      # @return [DeskState]
      def self.of(desk) = new(desk)

      def initialize(desk)
        @desk = desk
        @plan = desk.handed
        @word, @said = found
      end

      # @return [Boolean] whether what is planned now is not what was sent last
      def changed? = @plan.nil? || wanted != handed

      private

      def found
        return ["out of use", ""] if @desk.put_aside_at
        return [(@desk.plan_changes.empty? && @desk.parent.nil?) ? "empty" : "never sent", ""] unless @plan
        drifted = open_items
        return ["changed on the desk", count(drifted)] if drifted.any? && !unheard?
        return ["unreachable", "since #{@desk.seen_at&.iso8601 || "it was added"}"] if unheard?
        there = @desk.found&.dig("plan")
        return ["out of date", elsewhere(there)] if @desk.found&.dig("mark") != Core::Startup::Plan.mark(@plan.document)
        changed? ? ["out of date", newer] : ["current", ""]
      end

      def elsewhere(there)
        return "nothing is in its folder" unless there
        return "it has plan #{there}, #{@plan.number} is out" if there != @plan.number
        "it has another plan #{there}: not the one sent from here"
      end

      def unheard? = @desk.away && (@desk.seen_at.nil? || @desk.seen_at < Desk::HEARD.ago)

      def open_items = Core::Startup::Drift.differing(@desk.found&.fetch("items", []) || [])

      def count(items)
        items.map { _1["kind"] }.tally.map { |kind, number| "#{number} #{kind}" }.join(", ")
      end

      def wanted
        @wanted ||= Finding::StartupPlan.new(@desk).brushes.map { |one|
          key = one.key if one.line.part == "startup"
          [one.line.part, one.id, one.version.fingerprint, key, one.line.section, one.line.replaces]
        }
      end

      def handed
        @handed ||= Core::Startup::Layers::PARTS.flat_map { |part|
          @plan.document[part].map { |line| [part, *line.values_at("id", "fingerprint", "key", "section", "replaces")] }
        }
      end

      # What of the plan is newer, and whether it is another plan.
      def newer
        was = handed.to_h { |line| [line[1], line[2]] }
        count = wanted.count { |line| was.key?(line[1]) && was[line[1]] != line[2] }
        others = [wanted, handed].map { |list| list.map { |line| line.values_at(0, 1, 3, 4, 5) } }
        parts = []
        parts << ((count == 1) ? "1 brush is newer" : "#{count} brushes are newer") if count.positive?
        parts << "its plan was changed" if others[0] != others[1] || count.zero?
        parts.join(", ")
      end
    end
  end
end
