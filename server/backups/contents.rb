# frozen_string_literal: true

module Fobrel
  module Backups
    # What of the database a backup of the whole studio holds: every table that is not named here as left out, or as a
    # secret.
    class Contents
      # Tables of the database itself, of the moment, or of what is computed anew: why each is left out.
      LEFT_OUT = {
        "ar_internal_metadata" => "of the database itself",
        "schema_migrations" => "of the database itself: studio.json names the version",
        "que_jobs" => "work under way",
        "que_lockers" => "work under way",
        "que_values" => "work under way",
        "tasks" => "work under way, and what it said",
        "replies" => "answers of the last days, should they be asked for again",
        "tries" => "of the moment",
        "pulses" => "of the moment",
        "presences" => "of the moment",
        "brush_changes" => "of the moment",
        "gallery_looks" => "looked up again",
        "strips" => "painted again",
        "likenesses" => "computed again",
        "export_pieces" => "written again",
        "studio_backups" => "of this installation"
      }.freeze
      # Left out unless passwords are asked for.
      SECRET = %w[access_tokens gallery_tokens invitations sign_ins].freeze
      # What stands for a column that goes without its table, or is secret.
      INSTEAD = {
        "imports" => {
          "task_id" => "NULL",
          # What was under way is begun again by hand.
          "state" => "CASE state WHEN 'reading' THEN 'open' WHEN 'applying' THEN 'planned' ELSE state END"
        }
      }.freeze
      NO_PASSWORD = {"people" => {"password_digest" => "''"}}.freeze
      # How a file of a column's bytes ends, where the row does not say it as `ext`.
      ENDS = {"releases" => ".zip", "work_pages" => ".png"}.freeze
      private_constant :INSTEAD, :NO_PASSWORD, :ENDS

      # A table: its columns but those of bytes, those of bytes, and the columns that name a row.
      Table = Struct.new(:name, :columns, :bytes, :key, :instead, :ending, keyword_init: true) do
        # @return [String] SQL that gives its rows, in an order that does not change
        def rows
          list = columns.map { |column| instead.fetch(column, %("#{column}")) }.join(", ")
          "SELECT #{list} FROM #{name} ORDER BY #{order}"
        end

        # @return [String] SQL: what names each file of a column, how it ends, how large it is, and its bytes where
        #   they are no more than $1
        def files(column)
          "SELECT #{key.first}::text, #{ending}, octet_length(#{column})::text, " \
            "CASE WHEN octet_length(#{column}) <= $1 THEN #{column} END FROM #{name} " \
            "WHERE #{column} IS NOT NULL ORDER BY #{order}"
        end

        # Text is put in the order of its bytes, which no language of the machine changes.
        def order = key.map { |column| %("#{column}"::text COLLATE "C") }.join(", ")
      end

      # @param connection [PG::Connection]
      # @param passwords [Boolean]
      def initialize(connection, passwords:)
        @connection = connection
        @passwords = passwords
      end

      # @return [Array<Table>] those that are kept, by name
      def tables
        all = columns
        left = LEFT_OUT.keys + (@passwords ? [] : SECRET)
        all.except(*left).map { |name, rows| table(name, rows) }
      end

      private

      def table(name, rows)
        bytes, plain = rows.partition { _1["data_type"] == "bytea" }.map { |some| some.map { _1["column_name"] } }
        key = keys.fetch(name, plain)
        raise Core::Problem, "#{name} has bytes, and no one column that names a row." if bytes.any? && key.size != 1
        ending = plain.include?("ext") ? "'.' || ext" : "'#{ENDS[name]}'"
        Table.new(name:, columns: plain, bytes:, key:, instead: instead(name), ending:)
      end

      def instead(name) = INSTEAD.fetch(name, {}).merge(@passwords ? {} : NO_PASSWORD.fetch(name, {}))

      COLUMNS = <<~SQL
        SELECT c.table_name, c.column_name, c.data_type FROM information_schema.columns c
        JOIN information_schema.tables t USING (table_schema, table_name)
        WHERE c.table_schema = 'public' AND t.table_type = 'BASE TABLE' AND c.is_generated = 'NEVER'
        ORDER BY c.table_name COLLATE "C", c.ordinal_position
      SQL
      KEYS = <<~SQL
        SELECT c.conrelid::regclass::text AS name, a.attname AS key FROM pg_constraint c
        CROSS JOIN unnest(c.conkey) WITH ORDINALITY k(number, place)
        JOIN pg_attribute a ON a.attrelid = c.conrelid AND a.attnum = k.number
        WHERE c.contype = 'p' AND c.connamespace = 'public'::regnamespace ORDER BY 1, k.place
      SQL
      private_constant :COLUMNS, :KEYS

      # @return [Hash{String => Array<Hash>}] of each table its columns that are not computed
      def columns = @connection.exec(COLUMNS).to_a.group_by { _1["table_name"] }

      # @return [Hash{String => Array<String>}] of each table the columns that name a row
      def keys
        @keys ||= begin
          rows = @connection.exec(KEYS).to_a.group_by { _1["name"] }
          rows.transform_values { |some| some.map { _1["key"] } }
        end
      end
    end
  end
end
