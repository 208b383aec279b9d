# frozen_string_literal: true

module Fobrel
  module History
    # Takes back what a deed changed, row by row from the last: a row that is still as the deed left it becomes
    # what it was before; one that somebody changed since stays, and is told.
    #
    #   GoingBack.new(entry).call   # => ["“Fog” was saved again since; it stays as it is."]
    class GoingBack
      HUNG_ON = %w[categories statuses tags].freeze
      private_constant :HUNG_ON

      # @param entry [Models::HistoryEntry] locked
      def initialize(entry)
        @entry = entry
        @changes = entry.what_changed
        @told = Told.new
        @rebase = Rebase.new(entry)
      end

      # @return [Array<Integer>] later entries whose own undo was put right
      def rebased = @rebase.entries

      # @return [Array<String>] what stays, as sentences
      def call
        lock
        @later = @entry.touched_later
        steps = @changes.list.reverse.chunk_while { |a, b| together?(a, b) }.to_a
        # What brushes came to hang on goes after them.
        last, first = steps.partition { |list| list.first.kind == :came && HUNG_ON.include?(list.first.table) }
        (first + last).each do |list|
          send(list.first.kind, Table.named(list.first.table), list)
        end
        settle
        @told.sentences
      end

      private

      # A category goes after those below it.
      def together?(one, next_one)
        one.table == next_one.table && one.kind == next_one.kind && one.table != "categories"
      end

      # All rows at once and in one order, so that two who take back and change the same do it one after the other.
      def lock
        keys = @changes.list.group_by(&:table).transform_values { |list| list.map(&:key) }
        Table.all.each_value { |table|
          table.where(keys[table.name]).reorder(:id).lock("FOR NO KEY UPDATE").ids if keys.key?(table.name)
        }
      end

      def later?(name) = @later.include?(name)

      # --- rows that stayed and were changed -------------------------------------------------------

      def changed(table, list)
        now = table.rows(table.where(list.map(&:key)), list.flat_map { _1.before.keys }.uniq)
        gone, there = list.partition { !now.key?(_1.key) }
        gone.each { |change| @rebase.changed(change) || @told.gone(table) }
        back, kept = there.partition { |change| as_left?(table, change, now[change.key]) }
        kept.each { |change| @told.changed(table, change, now[change.key]) }
        rows = back.to_h { [_1.key, _1.before] }
        rows = rows.to_h { |key, row| [key, old_name(table, key, row)] } if table.name == "tags"
        lost = table.missing(rows, :optional)
        lost.each_key { |key| @told.lost(table, key) }
        table.update(rows.except(*lost.keys))
      end

      def as_left?(table, change, now)
        change.after.all? { |column, value| now[column] == value && !later?("#{table.name}:#{change.key}:#{column}") }
      end

      # --- rows that came --------------------------------------------------------------------------

      def came(table, list)
        now = table.rows(table.where(list.map(&:key)), items: list.any? { _1.after.key?("items") })
        there, gone = list.partition { now.key?(_1.key) }
        same, kept = there.partition { |change| untouched?(table, change, now[change.key]) }
        used = table.used(same.reject { _1.after.key?("items") }.map(&:key), @changes).to_set
        go, more = same.partition { |change| !used.include?(change.key) }
        (kept + more).each { |change| @told.stays(table, now[change.key]) }
        gone.each { |change| @told.went_since(table) if later?("#{table.name}:#{change.key}") }
        leave(table, go.map(&:key))
      end

      def untouched?(table, change, now)
        !later?("#{table.name}:#{change.key}") && change.after.all? { |column, value| now[column] == value }
      end

      def leave(table, keys)
        case table.name
        when "presets" then Actions::DeletePresets.erase(keys.map(&:to_i))
        when "bundles"
          Models::Release.where(bundle_id: keys).delete_all
          table.where(keys).each(&:destroy!)
        when "desks", "tags", "brush_sets" then table.where(keys).each(&:destroy!)
        else keys.each_slice(2000) { |some| table.where(some).delete_all }
        end
      end

      # --- rows that went --------------------------------------------------------------------------

      def went(table, list)
        rows = list.to_h { [_1.key, _1.before] }
        table.missing(rows, :needs).each_key { |key| rows.delete(key) && @told.gone(table) }
        table.missing(rows, :optional).each do |key, columns|
          columns.each { |column| @rebase.went(table, key, column, rows[key][column]) }
          rows[key] = rows[key].merge(columns.to_h { [_1, nil] })
        end
        rows.transform_values! { |row| free_name(table, row) }
        rows.reject! { |_, row| a_tag_now?(table, row) }
        came = table.insert(rows.values)
        (rows.keys - came).each { |key| @told.in_the_way(table, rows[key]) }
        rows.slice(*came).each { |key, row| fill(table, key, row["items"]) if row["items"] }
      end

      # A tag comes back under another name where its own is somebody else's by now.
      def free_name(table, row)
        return row unless table.name == "tags" && @entry.kind == "merge tags"
        name = Models::Tag.free_word(row["library_id"], row["name"])
        @told.renamed(row["name"], name) if name != row["name"]
        row.merge("name" => name)
      end

      # A tag that is called as it was before, where nothing else is by now.
      def old_name(table, key, row)
        return row if !row["name"] || table.model.where(id: key).named(row["name"]).exists?
        name = Models::Tag.free_word(table.model.where(id: key).pick(:library_id), row["name"])
        @told.renamed(row["name"], name) if name != row["name"]
        row.merge("name" => name)
      end

      # A word cannot mean one tag while it is another.
      def a_tag_now?(table, row)
        return false unless table.name == "tag_synonyms"
        found = Models::Tag.where(library_id: row["library_id"]).where.not(id: row["tag_id"]).named(row["name"]).exists?
        found.tap { @told.tag_now(row["name"]) if found }
      end

      def fill(table, key, items)
        there = Models::Preset.where(id: items.map { _1["preset"] }).ids
        items = items.select { there.include?(_1["preset"]) }
        sections = items.to_h { [_1["preset"], _1["section"]] }.compact
        put(table.model.find(key), items.map { _1["preset"] }, sections)
      end

      # --- orders made by hand ---------------------------------------------------------------------

      def order(table, list)
        list.each do |change|
          holder = table.model.find_by(id: change.key)
          next @rebase.changed(change) || @told.gone(table) unless holder
          there = holder.library.presets.where(id: change.before["items"].map { _1["preset"] }).ids
          was = Order.new(change, now: Order.of(holder), there:, later: method(:later?))
          @told.reordered(holder.name) if was.kept?
          @told.places(holder.name, was.stay.size) if was.stay.any?
          put(holder, was.ids, was.sections.compact)
        end
      end

      def put(holder, ids, sections)
        holder.respond_to?(:section_by_preset) ? holder.put_in_order(ids, sections) : holder.put_in_order(ids)
      end

      # What a brush shows follows its versions.
      def settle
        ids = @changes.list.select {
          _1.table == "presets" && _1.kind == :changed && (_1.before.keys & %w[
            current_version_id
            baseline_version_id
          ]).any?
        }
        Models::Preset.settle(ids.map { _1.key.to_i })
        plans = @changes.list.select { _1.table == "desks" && _1.kind == :changed && _1.before.key?("plan_changes") }
        Models::Desk.where(id: plans.map { _1.key.to_i }).each(&:settle)
        # A place's key begins with its holder's.
        Models::Ordered.holders.each do |table, model|
          keys = @changes.list.select { _1.table == table }.map { _1.key.to_i }
          model.where(id: keys.uniq).order(:id).lock.each(&:close_gaps)
        end
      end
    end
  end
end
