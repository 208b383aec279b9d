# frozen_string_literal: true

require "csv"
require "zip"

module Fobrel
  module Backups
    # Writes everything of the studio into one ZIP, as it stands at one moment while people go on working, with little
    # of it in memory at a time. docs/formats.md says how it is written.
    class Write
      FORMAT = "fobrel.studio/1"
      DESCRIPTION = "studio.json"
      # A part of a table is about this large, bytes, so that whoever reads it need not hold a whole table.
      PART = 8 * 1024 * 1024
      # What is packed already is only put in.
      PACKED = %w[.png .zip .jpg .webp].freeze

      # Writes a file of its own, and the sum of its bytes beside it as sha256sum writes it; neither is there before
      # both are whole, and on the disk.
      #
      # @param path [String]
      # @param options as #initialize
      # @return [Hash] studio.json
      # @raise [SystemCallError] such as Errno::ENOSPC; then nothing of it is left
      def self.file(path, **options)
        part = "#{path}.part-#{Process.pid}"
        said = File.open(part, "w+b", 0o600) { |io| new(io, **options).call.tap { io.flush && io.fsync } }
        sum = OpenSSL::Digest::SHA256.file(part).hexdigest
        File.open("#{part}.sha256", "w", 0o600) { |io|
          io.write("#{sum}  #{File.basename(path)}\n")
          io.flush && io.fsync
        }
        File.rename("#{part}.sha256", "#{path}.sha256")
        File.rename(part, path)
        said
      ensure
        FileUtils.rm_f([part, "#{part}.sha256"])
      end

      # @param io [File] for reading and writing
      # @param passwords [Boolean] whether passwords, tokens, invitations and sign-ins go with it
      # @param progress [#call, nil] told of tables done, and of how many
      def initialize(io, passwords: false, progress: nil)
        @io = io
        @passwords = passwords
        @progress = progress
      end

      # @return [Hash] studio.json
      def call
        Models::Record.transaction(isolation: :repeatable_read) do
          connection = Models::Record.connection
          connection.execute("SET TRANSACTION READ ONLY")
          write(connection.raw_connection)
        end
      end

      private

      def write(connection)
        tables = Contents.new(connection, passwords: @passwords).tables
        Wide.zip do
          Zip::OutputStream.write_buffer(@io) do |zip|
            @zip = zip
            told = tables.each_with_index.to_h { |table, done|
              @progress&.call(done, tables.size)
              [table.name, table(connection, table)]
            }
            @said = description(connection, told)
            put(DESCRIPTION)
            @zip.write(JSON.pretty_generate(@said) << "\n")
          end.flush # the library writes through a copy of the file with a buffer of its own
        end
        @said
      end

      def description(connection, told)
        made_at = connection.exec("SELECT to_char(now() AT TIME ZONE 'UTC', 'YYYY-MM-DD\"T\"HH24:MI:SS\"Z\"')")
        {
          "format" => FORMAT,
          "made_at" => made_at.getvalue(0, 0),
          "version" => connection.exec("SELECT version FROM schema_migrations ORDER BY 1").column_values(0),
          "passwords" => @passwords,
          # Numbers that were given once are not given again.
          "sequences" => connection.exec(
            "SELECT sequencename, last_value::text FROM pg_sequences WHERE last_value IS NOT NULL ORDER BY 1"
          ).values.to_h { |name, last| [name, Integer(last)] },
          "tables" => told
        }
      end

      def table(connection, table)
        reading = Reading.new(connection, table)
        head = table.columns.to_csv
        number, left = 0, 0
        reading.rows do |line|
          if left <= 0
            put(format("tables/%s/%04d.csv", table.name, number += 1))
            @zip.write(head)
            left = PART
          end
          left -= line.bytesize
          @zip.write(line)
        end
        before = nil
        reading.files do |path, piece|
          put("files/#{path}") if path != before
          before = path
          @zip.write(piece)
        end
        reading.told.merge("columns" => table.columns, "parts" => number)
      end

      def put(path)
        way = path.end_with?(*PACKED) ? Zip::Entry::STORED : Zip::Entry::DEFLATED
        @zip.put_next_entry(path, nil, nil, way)
      end
    end
  end
end
