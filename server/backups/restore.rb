# frozen_string_literal: true

module Fobrel
  module Backups
    # Brings a backup of the whole studio into an empty database: all of it, or nothing. What then stands there is held
    # against the backup row by row and picture by picture before it counts.
    class Restore
      # @see #initialize
      # @see #call
      def self.call(...) = new(...).call

      # @param copy [Copy]
      # @param progress [#call, nil] told of tables done, and of how many
      def initialize(copy, progress: nil)
        @copy = copy
        @progress = progress
      end

      # @return [Hash] tables, rows, files and bytes that are there now; people whose password was not in it; libraries
      #   whose history is not as it was written
      # @raise [Core::Problem] also where a studio is there already
      def call
        checked = @copy.check
        Database.first do
          bring_tables
          Models::Record.transaction { fill }
        end
        Database.migrate
        validate
        {tables: tables.size, **checked, unsure: @unsure, broken: broken_histories}
      rescue PG::Error => e
        raise Core::Problem, "The database did not take it (#{e.message.lines.first.strip}). Nothing of it was kept."
      end

      private

      # In the tables of this version, which its own rules are about; what does not keep to them goes again.
      def validate
        Validation.call
      rescue Core::Problem
        names = connection.tables - %w[schema_migrations ar_internal_metadata]
        connection.execute("TRUNCATE #{names.join(", ")} RESTART IDENTITY CASCADE")
        raise
      end

      def said = @copy.description

      def connection = Models::Record.connection

      def raw = connection.raw_connection

      def tables = @tables ||= Contents.new(raw, passwords: said["passwords"]).tables

      # Those of the version that the backup was made of; the way from there is the same as for any studio.
      def bring_tables
        context = ActiveRecord::MigrationContext.new(File.join(ROOT, "db/migrate"))
        there = context.get_all_versions
        if there.any? && connection.table_exists?("people") && (Models::Person.any? || Models::Library.any?)
          refuse("There is a studio in this database already")
        end
        known = context.migrations.map { _1.version.to_s }
        newer = said["version"] - known
        refuse("It was made by a newer Fobrel than this one (#{newer.first})") if newer.any?
        wanted = said["version"].map(&:to_i)
        refuse("The tables here are of a newer version than the backup") if (there - wanted).any?
        ActiveRecord::Migration.verbose = false
        context.migrate(wanted.max)
      end

      def refuse(why)
        raise Core::Problem, "#{why}. Nothing was changed. Restore into an empty database: DATABASE_URL names one."
      end

      # Nothing refers to anything while the tables fill; when they are full everything must.
      def fill
        same_tables
        references = take_references
        triggers("DISABLE")
        tables.each_with_index do |table, done|
          @progress&.call(done, tables.size)
          raw.exec("DELETE FROM #{table.name}")
          table.bytes.any? ? with_files(table) : rows(table)
        end
        triggers("ENABLE")
        references.each { |sql| raw.exec(sql) }
        said["sequences"].each { |name, last| number(name, last) }
        tables.each { |table| compare(table) }
        @unsure = said["passwords"] ? 0 : give_passwords
      end

      def same_tables
        here = tables.to_h { [_1.name, _1.columns.sort] }
        there = said["tables"].transform_values { _1["columns"].sort }
        other = (here.to_a - there.to_a) + (there.to_a - here.to_a)
        refuse("It does not have the tables of its version (#{other.first.first})") if other.any?
        # It says in which order its columns are.
        tables.each { |table| table.columns = said["tables"][table.name]["columns"] }
      end

      def take_references
        all = raw.exec(<<~SQL).to_a
          SELECT conrelid::regclass::text AS name, conname, pg_get_constraintdef(oid) AS words FROM pg_constraint
          WHERE contype = 'f' AND connamespace = 'public'::regnamespace ORDER BY 1, 2
        SQL
        all.each { |one| raw.exec("ALTER TABLE #{one["name"]} DROP CONSTRAINT #{one["conname"]}") }
        all.map { |one| "ALTER TABLE #{one["name"]} ADD CONSTRAINT #{one["conname"]} #{one["words"]}" }
      end

      def triggers(able) = tables.each { |table| raw.exec("ALTER TABLE #{table.name} #{able} TRIGGER USER") }

      def number(name, last)
        raw.exec_params("SELECT setval(to_regclass($1), $2) WHERE to_regclass($1) IS NOT NULL", [name, [last, 1].max])
      end

      def rows(table)
        raw.copy_data("COPY #{table.name} (#{names(table.columns)}) FROM STDIN (FORMAT csv)") do
          @copy.lines(table.name) { |piece| raw.put_copy_data(piece) }
        end
      end

      def names(columns) = columns.map { %("#{_1}") }.join(", ")

      # Rows with pictures are put together from both; the pictures come in pieces, for one may be large.
      def with_files(table)
        at = table.columns.index(table.key.first)
        files = @copy.files(table.name).to_h { |called, path| [called.sub(/\.\w+\z/, ""), path] }
        raw.copy_data("COPY #{table.name} (#{names(table.columns + table.bytes)}) FROM STDIN") do
          @copy.each_part(table.name) do |part|
            CSV.parse(part).each do |row|
              raw.put_copy_data(row.map { text(_1) }.join("\t"))
              table.bytes.each { |column| file(files["#{table.name}/#{column}/#{row[at]}"]) }
              raw.put_copy_data("\n")
            end
          end
        end
      end

      # As COPY reads it.
      def text(value) = value ? value.gsub(/[\\\t\n\r]/, ESCAPED) : "\\N"

      ESCAPED = {"\\" => "\\\\", "\t" => "\\t", "\n" => "\\n", "\r" => "\\r"}.freeze
      private_constant :ESCAPED

      def file(path)
        return raw.put_copy_data("\t\\N") unless path
        raw.put_copy_data("\t\\\\x")
        @copy.each_piece(path) { |piece| raw.put_copy_data(piece.unpack1("H*")) }
      end

      def compare(table)
        found = Reading.new(raw, table).rows.files.told
        return if found.all? { |word, value| said["tables"][table.name][word] == value }
        raise Core::Problem, "#{table.name} would not be what it was. Nothing of the backup was kept."
      end

      # Whoever has none cannot sign in before they are given one; that there is none must not be a password either.
      def give_passwords
        Models::Person.update_all(password_digest: BCrypt::Password.create(SecureRandom.hex(32)))
      end

      def broken_histories
        [nil, *Models::Library.all].reject { |library| History::Chain.new(library).check[:broken].empty? }
          .map { _1&.name || "the studio" }
      end
    end
  end
end
