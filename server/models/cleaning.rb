# frozen_string_literal: true

module Fobrel
  module Models
    # One night's work: takes away what nobody needs, by the rules of each library (see Storage), and gives
    # the room back. It goes in small steps, so that nobody waits for it, and can be begun again.
    class Cleaning < Record
      belongs_to :person, optional: true

      # Rows taken away at one go.
      STEP = 1000
      # What was asked for within this time may be wanted again.
      GRACE = 30.days
      # A table that is not larger than this is written anew within a moment, bytes: whoever undoes an import
      # leaves room in tables that the night does not touch. A larger one where something was taken away; the
      # largest where more was taken away than is left.
      QUICK = 64 * 1024 * 1024
      LARGE = 512 * 1024 * 1024
      # How long one waits for a table to be free, ms.
      WAIT = 3000
      private_constant :STEP, :GRACE, :QUICK, :LARGE, :WAIT

      # Does it.
      #
      # @return [Cleaning] ended
      def run
        @took = Hash.new(0)
        @swept = Hash.new(0)
        update!(before: self.class.size)
        Library.find_each { |library| by_rules(library, Reports::Storage.new(library)) }
        leftovers
        strips
        pictures
        give_back
        update!(took: @took.select { _2.positive? }, after: self.class.size, ended_at: Time.current)
        self
      end

      # @return [Integer] bytes of the whole database
      def self.size = connection.select_value("SELECT pg_database_size(current_database())")

      private

      def by_rules(library, storage)
        storage.days.each { |key, days| send(key, library, days.days.ago, storage) if days }
      end

      def cut_off(library, before, _)
        sweep("cut_off", Import.where(library:, state: "open", created_at: ..before))
      end

      # What was never imported is discarded; that it was there is still known for a while.
      def waiting(library, before, _)
        Import.where(library:, state: "planned", created_at: ..before).find_each do |import|
          sweep(nil, import.items.reorder(nil))
          sweep(nil, import.parts)
          sweep(nil, import.files.reorder(nil))
          import.update!(state: "left")
          @took["waiting"] += 1
        end
      end

      def listed(library, before, _)
        over = Import.where(library:, state: %w[applied left], updated_at: ..before)
        sweep("listed", ImportItem.where(import_id: over.select(:id)))
        # What lies in the watched folder still must not come a second time.
        sweep("listed", over.where(state: "left", watched: nil))
      end

      def tasks(library, before, _)
        over = Task.where(library:, state: %w[done failed], updated_at: ..before)
        Import.where(task_id: over.select(:id)).update_all(task_id: nil)
        sweep("tasks", over)
      end

      def undo(library, before, _)
        over = HistoryEntry.where(library:, created_at: ..before).where(
          "undo NOT IN ('{}', ?::jsonb)",
          JSON.generate(HistoryEntry::CLOSED)
        )
        loop do
          closed = HistoryEntry.where(id: over.limit(STEP).ids).update_all(undo: HistoryEntry::CLOSED, touched: [])
          note("undo", "history_entries", closed)
          break if closed < STEP
        end
      end

      # Only what nothing uses, and written down for whoever hid it.
      def hidden(library, _, storage)
        over = storage.over.order(:id).to_a
        used = Finding::Uses.keeping(library, over.map(&:id))
        over.select { |preset| used[preset.id].empty? }.group_by(&:hidden_by_id).each_value do |some|
          History::Via.from("job") { destroy(library, some, storage.days["hidden"]) }
          note("hidden", "presets", some.size)
        end
      end

      def destroy(library, some, days)
        person = some.first.hidden_by || library.memberships.find_by(role: "lead")&.person or return
        said = "#{some.size} #{(some.size == 1) ? "brush" : "brushes"} deleted #{days} days after being hidden, as " \
          "the rules say: #{some.first(10).map(&:name).join(", ")}#{" …" if some.size > 10}"
        self.class.transaction do
          Actions::DeletePresets.erase(some.map(&:id))
          HistoryEntry.write(library, person, "destroy", said, about: some)
        end
      end

      # Its name says when a file was taken.
      def taken(_, before, storage)
        storage.taken.each do |one|
          storage.tree.remove(one.path) && @took["taken"] += 1 if one.stat.ctime < before
        rescue SystemCallError => e
          Watching::Log.trouble("The night's cleaning", e)
        end
      end

      def leftovers
        sweep("other", Reply.where(created_at: ..Reply::KEEP.ago))
        sweep("other", ExportPiece.where(export_id: Export.over.select(:id)))
        sweep("other", GalleryLook.where(asked_at: ..30.days.ago))
        @took["other"] += BrushChange.prune
        Try.where(ends_at: ..Time.current).delete_all
        sweep("other", Pulse.where(seen_at: ..1.day.ago))
        sweep("other", Work.where(thrown_at: ..Work::KEEP.ago))
        @took["other"] += self.class.connection.delete(
          "DELETE FROM que_jobs WHERE expired_at < now() - interval '14 days'"
        )
      end

      # Painted anew when they are asked for.
      def strips
        kept = %w[versions drafts proposal_items import_items].map { |table|
          "EXISTS (SELECT 1 FROM #{table} k WHERE k.fingerprint = %<of>s)"
        }.join(" OR ")
        version = Core::Stroke::Strip::VERSION
        sweep("strips", KeptStrip.where("version <> ? OR NOT (#{format(kept, of: "strips.fingerprint")})", version))
        sweep(
          nil,
          StripPair.where(
            "version <> ? OR NOT (#{format(
              kept,
              of: "likenesses.one"
            )}) OR NOT (#{format(kept, of: "likenesses.other")})",
            version
          )
        )
      end

      # Whatever looks like a picture's sum in what may still be used counts as one.
      SPOKEN_OF = {
        "drafts" => "document",
        "tuning_steps" => "document",
        "proposal_items" => "document",
        "followed_brushes" => "base",
        "history_entries" => "undo",
        "import_items" => "document",
        "bundles" => "picture",
        "work_pages" => "sha256 || ' ' || coalesce(drawing, '')",
        "parts" => "sha256"
      }.freeze
      private_constant :SPOKEN_OF

      def pictures
        sums = SPOKEN_OF.flat_map { |table, column|
          self.class.connection.select_values(
            "SELECT DISTINCT (regexp_matches(#{column}::text, '[0-9a-f]{64}', 'g'))[1] FROM #{table}"
          )
        }.uniq
        free = Asset.where(created_at: ..GRACE.ago).where(
          "NOT EXISTS (SELECT 1 FROM version_needs n WHERE n.sha256 = assets.sha256) " \
            "AND NOT EXISTS (SELECT 1 FROM import_parts p WHERE p.sha256 = assets.sha256) " \
            "AND NOT EXISTS (SELECT 1 FROM desk_plan_files f WHERE f.sum = assets.sha256)"
        )
        free.pluck(:sha256).-(sums).each_slice(STEP) do |some|
          # Asked once more: somebody may have begun to use it meanwhile.
          note("pictures", "assets", free.where(sha256: some).delete_all)
        end
      end

      # @param key [String, nil] under which it is told
      def sweep(key, found)
        model = found.klass
        loop do
          gone = model.where(id: found.limit(STEP).pluck(:id)).delete_all
          note(key, model.table_name, gone)
          break if gone < STEP
        end
      end

      def note(key, table, count)
        @took[key] += count if key
        @swept[table] += count
      end

      # What goes with a row goes with it in other tables too.
      GONE_WITH = {
        "imports" => %w[import_files import_chunks import_parts import_items],
        "import_files" => %w[import_chunks],
        "works" => %w[work_pages work_steps]
      }.freeze
      private_constant :GONE_WITH

      # No table can be written anew within a transaction (where only specs are).
      def give_back
        connection = self.class.connection
        return if connection.transaction_open?
        usual = connection.select_value("SHOW lock_timeout")
        connection.execute("SET lock_timeout = #{WAIT}")
        swept = @swept.select { _2.positive? }.keys.flat_map { [_1, *GONE_WITH[_1]] }
        connection.tables.each { |table| compact(connection, table, swept.include?(table)) }
      ensure
        connection.execute("SET lock_timeout = '#{usual}'") if usual
      end

      def compact(connection, table, swept)
        connection.execute("VACUUM (ANALYZE) #{table}")
        lying = connection.select_value("SELECT pg_total_relation_size('#{table}')")
        anew = lying <= (swept ? LARGE : QUICK)
        anew ||= @swept[table] > connection.select_value("SELECT count(*) FROM #{table}")
        connection.execute("VACUUM (FULL, ANALYZE) #{table}") if anew
      rescue ActiveRecord::LockWaitTimeout
        nil # somebody uses it; the next night is as good
      end
    end
  end
end
