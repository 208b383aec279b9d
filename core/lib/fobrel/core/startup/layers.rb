# frozen_string_literal: true

module Fobrel
  module Core
    module Startup
      # A start-up plan as a list of lines, and how one list becomes another: a desk keeps only how it differs from its
      # template, and the template only how it differs from its own.
      #
      #   changes = Layers.differences(template, wanted)
      #   Layers.apply(template, changes)                  # => wanted
      #   Layers.apply(template_of_tomorrow, changes)      # => what is wanted of that
      module Layers
        # What loads at every start, and what is at hand.
        PARTS = %w[startup shelf].freeze

        # `thing` is what the line brings: "brush/<id>", "set/<id>" or "bundle/<id>"; `at` a version or a release where
        # it stays at one; `section` a heading; `replaces` the name of a stock brush whose place it takes.
        Line = Struct.new(:thing, :part, :section, :at, :replaces, keyword_init: true) do
          # @param hash [Hash] as JSON has it
          # @return [Line]
          def self.from(hash) = new(**hash.slice("thing", "part", "section", "at", "replaces").transform_keys(&:to_sym))

          # @return [Hash] without what is nothing
          def to_json_h = to_h.compact.transform_keys(&:to_s)
        end

        class << self
          # @param lines [Array<Line>] each thing once
          # @param changes [Array<Hash>] {"out" => thing}, or {"put" => a line's hash, "after" => thing or nil}
          # @return [Array<Line>] startup first
          def apply(lines, changes)
            list = lines.dup
            changes.each { |change|
              change.key?("out") ? list.reject! {
                _1.thing == change["out"]
              } : put(list, change)
            }
            in_parts(list)
          end

          # @param from [Array<Line>]
          # @param to [Array<Line>]
          # @return [Array<Hash>] as few as there can be, in the order in which they are applied
          def differences(from, to)
            from, to = in_parts(from), in_parts(to)
            there = to.map(&:thing)
            gone = from.map(&:thing) - there
            still = unmoved(from, to)
            before = [nil, *there]
            put = to.each_with_index.filter_map { |line, index|
              {"put" => line.to_json_h, "after" => before[index]} unless still.include?(line.thing)
            }
            gone.map { {"out" => _1} } + put
          end

          # What a line is beside the template's: "added", "moved" (also to the other part), "changed" or nil.
          #
          # @param change [Hash] one of .differences
          # @param from [Array<Line>] the template's
          # @return [String] "taken out" where it is left away
          def kind(change, from)
            return "taken out" if change.key?("out")
            line = Line.from(change["put"])
            was = from.find { _1.thing == line.thing } or return "added"
            (was.at == line.at && was.replaces == line.replaces) ? "moved" : "changed"
          end

          private

          def put(list, change)
            line = Line.from(change["put"])
            list.reject! { _1.thing == line.thing }
            index = list.index { _1.thing == change["after"] }
            # What it stood behind is gone: to the end of its part, where it is in nobody's way.
            place = index ? index + 1 : (list.size if change["after"])
            list.insert(place || 0, line)
          end

          def in_parts(list) = list.sort_by.with_index { |line, index| [PARTS.index(line.part), index] }

          # The most lines that are in both as they are and in one order: the longest rising row of places.
          def unmoved(from, to)
            was = from.each_with_index.to_h { |line, index| [line, index] }
            both = to.filter_map { |line| [line.thing, was[line]] if was.key?(line) }
            rising(both.map(&:last)).to_set { |index| both[index].first }
          end

          # @return [Array<Integer>] indices of a longest rising row
          def rising(numbers)
            ends, back = [], []
            numbers.each_with_index do |number, index|
              at = ends.bsearch_index { |one| numbers[one] >= number } || ends.size
              back[index] = at.zero? ? nil : ends[at - 1]
              ends[at] = index
            end
            row, one = [], ends.last
            while one
              row << one
              one = back[one]
            end
            row.reverse
          end
        end
      end
    end
  end
end
