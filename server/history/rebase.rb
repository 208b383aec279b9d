# frozen_string_literal: true

module Fobrel
  module History
    # Deeds are taken back in any order. Where one changed a row that a later deed has removed, what the later
    # one will bring back is put right; where a row comes back before what it points to, the deed that will
    # bring that back points the row to it again.
    class Rebase
      # @return [Array<Integer>] entries that keep something else since
      attr_reader :entries

      # @param entry [Models::HistoryEntry] that is being undone
      def initialize(entry)
        @entry = entry
        @entries = []
      end

      # @param change [Changes::Change] of a row that is gone
      # @return [Boolean] whether a later deed keeps it, and now keeps it as it was before this one
      def changed(change)
        in_removal(change.table, change.key) do |went, _|
          change.after.each { |column, value|
            went.before[column] = change.before[column] if went.before[column] == value
          }
        end
      end

      # @param table [Table] whose row comes back pointing to nothing
      # @param column [String] that pointed
      # @param id [Integer] to a row that is gone
      def went(table, key, column, id)
        in_removal(table.optional.fetch(column).table_name, id.to_s) do |went, changes|
          pointing = Changes::Change.new(table.name, key, {column => id}, {column => nil})
          changes.list.insert(changes.list.index(went), pointing)
        end
      end

      private

      def in_removal(table, key)
        entry = @entry.later.where("touched && ARRAY[?]", "#{table}:#{key}").order(:id).find do |one|
          one.what_changed.list.any? { _1.table == table && _1.key == key && _1.kind == :went }
        end
        return false unless entry
        changes = entry.what_changed
        yield changes.list.find { _1.table == table && _1.key == key && _1.kind == :went }, changes
        entry.update!(undo: changes.to_h, touched: changes.touched)
        @entries |= [entry.id]
        true
      end
    end
  end
end
