# frozen_string_literal: true

module Fobrel
  module History
    # Names of what a change touches: "presets:4" for a row, "presets:4:hidden_at" for a column, and for an order
    # "brush_sets:7:order" beside the row of each brush that came into it or went.
    #
    #   Touched.by(change)   # => ["presets:4", "presets:4:hidden_at"]
    module Touched
      class << self
        # @param change [Changes::Change]
        # @return [Array<String>]
        def by(change)
          row = "#{change.table}:#{change.key}"
          case change.kind
          when :changed then [row, *change.before.keys.map { "#{row}:#{_1}" }]
          when :order then order(change, row)
          else [row, *ends(change)]
          end
        end

        # @param table [String] of what holds
        # @param key [String]
        # @return [String] the row of a brush in an order
        def place(table, key, preset) = "#{Table.named(table).places.table_name}:#{key}-#{preset}"

        private

        # What a tagging or a place joins: neither goes with an older deed while this one stands.
        def ends(change)
          key = Table.named(change.table).key
          return [] if key.one?
          key.zip(change.key.split("-")).filter_map do |column, id|
            joined = Table.named(change.table).needs[column] and "#{joined.table_name}:#{id}"
          end
        end

        def order(change, row)
          before, after = [change.before, change.after].map { |side|
            side["items"].to_h {
              [_1["preset"], _1["section"]]
            }
          }
          stay = before.keys & after.keys
          moved = stay != after.keys & before.keys
          headed = stay.reject { before[_1] == after[_1] }
          changed = (before.keys | after.keys) - stay
          [
            row,
            *(changed | headed).map { "presets:#{_1}" },
            ("#{row}:order" if moved),
            *changed.map { place(change.table, change.key, _1) },
            # Whoever brings a brush in gives it its heading, too.
            *(changed | headed).map { "#{place(change.table, change.key, _1)}:section" }
          ].compact
        end
      end
    end
  end
end
