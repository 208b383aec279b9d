# frozen_string_literal: true

module Fobrel
  module History
    # How rows of a table are kept in the history and taken back: what names a row, what must be as the deed left
    # it, what keeps a row that came from going again.
    #
    #   Table.named("taggings").key_of({"tag_id" => 3, "preset_id" => 9})   # => "3-9"
    class Table
      # Never kept, or worked out anew from what is.
      PLAIN = %w[id created_at updated_at].freeze

      attr_reader :model, :key, :derived, :needs, :optional, :noun

      # @param model [Class] of Models
      # @param key [Array<String>] columns that name a row for good
      # @param left [Array<String>, nil] columns of a row that came which must be as the deed left them; nil are all
      # @param derived [Array<String>] columns that follow from others
      # @param needs [Hash{String => Class}] what a row cannot be without, by its column
      # @param optional [Hash{String => Class}] what it may point to
      # @param noun [String] such as "tag"
      # @param items [Boolean] whether what it holds in order belongs to it
      # @param used [Proc] ids and the entry's own changes to those that are used, see Used
      def initialize(model, noun, key: %w[id], left: nil, derived: [], needs: {}, optional: {}, items: false, used: nil)
        @model = model
        @noun = noun
        @key = key
        @left = left
        @derived = derived + PLAIN
        @needs = needs
        @optional = optional
        @items = items
        @used = used
      end

      def name = @model.table_name

      # @return [Class] of the places that it holds in order
      def places = @model.reflect_on_association(:items).klass

      def key_of(row) = row.values_at(*@key).join("-")

      # @return [Hash] what of a row that came is kept
      def left(row) = row.slice(*(@left || row.keys - @derived), "items")

      # Rows as PostgreSQL writes them (so that a time loses nothing), locked in the order of their ids.
      #
      # @param relation [ActiveRecord::Relation]
      # @param columns [Array<String>, nil]
      # @param items [Boolean] whether with what they hold in order
      # @return [Hash{String => Hash}] by key
      def rows(relation, columns = nil, items: false)
        sought = relation.reorder(:id).lock("FOR NO KEY UPDATE")
        sought = sought.select(*(@key | ["id"] | columns)) if columns
        list = @model.connection.select_values("SELECT to_jsonb(one_row) FROM (#{sought.to_sql}) one_row").map {
          JSON.parse(_1)
        }
        found = list.to_h { |row| [key_of(row), columns ? row.except("id", *@key) : row] }
        ((@items || items) && columns.nil?) ? with_items(found) : found
      end

      # @param keys [Array<String>]
      # @return [ActiveRecord::Relation]
      def where(keys)
        return @model.where(id: keys) if @key == %w[id]
        return @model.none if keys.empty?
        values = keys.map { |key| "(#{key.split("-").map { Integer(_1) }.join(", ")})" }
        @model.where("(#{@key.map { "#{name}.#{_1}" }.join(", ")}) IN (VALUES #{values.join(", ")})")
      end

      # @param keys [Array<String>]
      # @param own [Changes] of the deed that brought them
      # @return [Array<String>] those that somebody has begun to use
      def used(keys, own) = @used ? @used[keys, own] : []

      # Rows come back under their old numbers.
      #
      # @param rows [Array<Hash>]
      # @return [Array<String>] keys of those that came; others were in their way
      def insert(rows)
        return [] if rows.empty?
        columns = (rows.first.keys & @model.column_names).map { @model.connection.quote_column_name(_1) }.join(", ")
        sql = "INSERT INTO #{name} (#{columns}) SELECT #{columns} FROM jsonb_populate_recordset(NULL::#{name}, ?) " \
          "ON CONFLICT DO NOTHING RETURNING #{@key.join(", ")}"
        rows.each_slice(2000).flat_map do |some|
          asked = Models::Record.sanitize_sql([sql, JSON.generate(some.map { _1.except("items") })])
          @model.connection.select_rows(asked).map { _1.join("-") }
        end
      end

      # @param changes [Hash{String => Hash}] new values of columns by key
      def update(changes)
        changes.group_by { |_, row| row.keys }.each do |columns, pairs|
          rows = pairs.map { |key, row| row.merge(@key.zip(key.split("-")).to_h) }
          set = columns.map { |column|
            @model.connection.quote_column_name(column)
          }.map { "#{_1} = v.#{_1}" }.join(", ")
          same = @key.map { "#{name}.#{_1} = v.#{_1}" }.join(" AND ")
          sql = "UPDATE #{name} SET #{set} FROM jsonb_populate_recordset(NULL::#{name}, ?) v WHERE #{same}"
          rows.each_slice(2000) { |some|
            @model.connection.exec_update(Models::Record.sanitize_sql([sql, JSON.generate(some)]))
          }
        end
      end

      # What a row points to and is not there any more.
      #
      # @param rows [Hash{String => Hash}] by key
      # @param which [Symbol] :needs or :optional
      # @return [Hash{String => Array<String>}] columns by key
      def missing(rows, which)
        pointing = (which == :needs) ? @needs : @optional
        there = pointing.to_h { |column, model|
          [
            column,
            model.where(
              id: rows.values.filter_map {
                _1[column]
              }.uniq
            ).ids.to_set
          ]
        }
        rows.transform_values { |row|
          pointing.keys.select { |column|
            row[column] && !there[column].include?(row[column])
          }
        }
          .reject { |_, columns| columns.empty? }
      end

      # @return [String] what a sentence calls a row
      def called(row) = row["name"] ? "“#{row["name"]}”" : "A #{@noun}"

      private

      def with_items(found)
        holders = @model.where(id: found.keys).index_by { _1.id.to_s }
        found.to_h do |key, row|
          holder = holders.fetch(key)
          row = row.merge("releases" => holder.releases.ids) if holder.respond_to?(:releases)
          [key, row.merge("items" => Order.of(holder))]
        end
      end

      class << self
        # @param model [Class]
        # @return [Table]
        def of(model) = named(model.table_name)

        # @param name [String]
        # @return [Table]
        def named(name) = all.fetch(name)

        # In the order in which their rows are locked, whoever changes several.
        #
        # @return [Hash{String => Table}]
        def all = @all ||= tables.to_h { [_1.name, _1] }

        private

        def tables
          m = Models
          in_library = {"library_id" => m::Library}
          of_brush = {"preset_id" => m::Preset}
          [
            new(m::Library, "library"),
            new(
              m::Category,
              "category",
              needs: in_library,
              optional: {"parent_id" => m::Category},
              used: Used.method(:categories)
            ),
            new(m::Status, "status", needs: in_library, used: Used.method(:statuses)),
            new(m::Tag, "tag", needs: in_library, used: Used.method(:tags)),
            new(m::TagSynonym, "synonym", needs: {"tag_id" => m::Tag}),
            new(m::BrushSet, "set", left: %w[name query], needs: in_library, used: Used.method(:sets)),
            new(
              m::Bundle,
              "bundle",
              left: %w[name description author licence releases],
              needs: in_library,
              optional: {"cover_id" => m::Preset},
              items: true,
              used: Used.method(:bundles)
            ),
            new(m::Desk, "desk", left: %w[name sent_at], needs: in_library, items: true),
            new(m::ExportTemplate, "export template", needs: in_library),
            new(m::Follow, "followed bundle", left: %w[bundle_id], needs: in_library),
            new(m::Part, "part", left: %w[name sha256 hidden_at], needs: in_library),
            new(
              m::Preset,
              "brush",
              left: %w[current_version_id],
              needs: in_library,
              optional: {"category_id" => m::Category, "status_id" => m::Status},
              used: Used.method(:presets)
            ),
            new(
              m::FollowedBrush,
              "followed brush",
              left: %w[fingerprint left_as],
              needs: {"follow_id" => m::Follow, **of_brush}
            ),
            new(m::Tagging, "tagging", key: %w[tag_id preset_id], needs: {"tag_id" => m::Tag, **of_brush}),
            new(
              m::SetItem,
              "place",
              key: %w[brush_set_id preset_id],
              left: [],
              derived: %w[position],
              needs: {"brush_set_id" => m::BrushSet, **of_brush}
            ),
            new(m::StartItem, "place", key: %w[desk_id preset_id], left: [], needs: {"desk_id" => m::Desk, **of_brush}),
            new(
              m::BundleItem,
              "place",
              key: %w[bundle_id preset_id],
              left: [],
              needs: {"bundle_id" => m::Bundle, **of_brush}
            ),
            new(
              m::Draft,
              "draft",
              key: %w[person_id preset_id],
              left: %w[fingerprint base_version_id],
              needs: {**of_brush, "base_version_id" => m::Version}
            )
          ]
        end
      end
    end
  end
end
