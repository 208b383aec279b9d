# frozen_string_literal: true

module Fobrel
  module History
    # What a deed changed: a list of rows, each with what it was before and after. The history keeps it, and an
    # undo needs nothing else. Written as changes.schema.json says.
    #
    #   changes = Changes.new
    #   changes.watch(Models::Preset.where(id: 4), %w[hidden_at]) { hide }
    #   changes.to_h
    #   # => {"version" => 2, "changes" => [{"table" => "presets", "key" => "4",
    #   #      "before" => {"hidden_at" => nil}, "after" => {"hidden_at" => "2026-11-26T10:00:00"}}]}
    class Changes
      VERSION = 2
      SCHEMA = File.expand_path("changes.schema.json", __dir__)

      # One row: a `before` of nil came, an `after` of nil went. What a row of its own table holds in an order
      # made by hand is told as its "items".
      Change = Struct.new(:table, :key, :before, :after) do
        # @return [Symbol] :came, :went, :order or :changed
        def kind
          return :came if before.nil?
          return :went if after.nil?
          before.key?("items") ? :order : :changed
        end
      end

      # @param kept [Hash] as #to_h gave it; nothing of an undo that is gone
      # @return [Changes]
      def self.read(kept)
        new(kept.fetch("changes", []).map { Change.new(*_1.values_at("table", "key", "before", "after")) })
      end

      attr_reader :list

      # @param list [Array<Change>]
      def initialize(list = [])
        @list = list
      end

      # Writes down what becomes of rows while a block runs. They are locked from the beginning, in the order
      # of their ids.
      #
      # @param relation [ActiveRecord::Relation] the rows; one that the block takes out of it is still watched
      # @param columns [Array<String>, nil] that the block may change in rows that stay; nil watches all
      # @return what the block gives
      def watch(relation, columns = nil)
        table = Table.of(relation.klass)
        before = table.rows(relation, columns)
        given = yield
        after = table.rows(relation.reset, columns)
        # A row that the relation does not find any more has gone only if it is nowhere.
        after = table.rows(table.where(before.keys - after.keys), columns).merge(after)
        (before.keys | after.keys).each { |key| note(table, key, before[key], after[key]) }
        given
      end

      # Writes down that rows are new.
      #
      # @param relation [ActiveRecord::Relation]
      # @param items [Boolean] whether what they hold in order came with them, and goes only with them
      def came(relation, items: false)
        table = Table.of(relation.klass)
        table.rows(relation, items:).each { |key, row| note(table, key, nil, row) }
      end

      # Writes down a new order of what something holds.
      #
      # @param holder [Models::BrushSet, Models::Bundle, Models::Desk]
      # @return what the block gives
      def watch_order(holder)
        before = Order.of(holder)
        given = yield
        after = Order.of(holder)
        name = holder.class.table_name
        @list << Change.new(name, holder.id.to_s, {"items" => before}, {"items" => after}) if before != after
        given
      end

      # @return [Array<Integer>] ids of the rows of a table that came
      def ids_that_came(table) = @list.select { _1.table == table && _1.kind == :came }.map { _1.key.to_i }

      def empty? = @list.empty?

      # @return [Hash] for the history; {} where nothing changed
      def to_h = empty? ? {} : {"version" => VERSION, "changes" => @list.map { _1.to_h.transform_keys(&:to_s) }}

      # @return [Array<String>] names of the rows that were changed, and of their columns: a later deed on one
      #   of them keeps an earlier one from being taken back
      def touched = @list.flat_map { Touched.by(_1) }.uniq

      private

      def note(table, key, before, after)
        return @list << Change.new(table.name, key, nil, table.left(after)) if before.nil?
        return @list << Change.new(table.name, key, before, nil) if after.nil?
        columns = after.keys.reject { table.derived.include?(_1) || before[_1] == after[_1] }
        @list << Change.new(table.name, key, before.slice(*columns), after.slice(*columns)) if columns.any?
      end
    end
  end
end
