# frozen_string_literal: true

module Fobrel
  module Backups
    # Reads one table of the database, row by row and picture by picture, and keeps count of both: whoever writes a
    # backup, and whoever holds a database against one, sees the same.
    class Reading
      # Files larger than this are read, and written, in pieces, bytes.
      PIECE = 16 * 1024 * 1024

      # @param connection [PG::Connection]
      # @param table [Contents::Table]
      def initialize(connection, table)
        @connection = connection
        @table = table
        @rows, @size, @files, @bytes = 0, 0, 0, 0
        @sum, @files_sum = OpenSSL::Digest.new("SHA256"), OpenSSL::Digest.new("SHA256")
      end

      # @yieldparam line [String] a row as CSV (RFC 4180), as PostgreSQL writes it
      # @return [Reading]
      def rows
        @connection.copy_data("COPY (#{@table.rows}) TO STDOUT (FORMAT csv)") do
          while (line = @connection.get_copy_data)
            row(line)
            yield line if block_given?
          end
        end
        self
      end

      # @yieldparam path [String] of a file, such as "assets/bytes/5f….png"
      # @yieldparam piece [String] of its bytes; a large one comes in several
      # @return [Reading]
      def files(&)
        @table.bytes.each { |column| column(column, &) }
        self
      end

      # A row that was read elsewhere.
      def row(line)
        @rows += 1
        @size += line.bytesize
        @sum << line
      end

      # A file that was read elsewhere.
      #
      # @param path [String]
      # @param size [Integer]
      # @param sum [String] SHA-256, as hex
      def file(path, size, sum)
        @files += 1
        @bytes += size
        @files_sum << "#{sum} #{path}\n"
      end

      # @return [Hash] what studio.json says of it
      def told
        {"rows" => @rows, "size" => @size, "sha256" => @sum.hexdigest}.merge(
          @table.bytes.any? ? {"files" => @files, "bytes" => @bytes, "files_sha256" => @files_sum.hexdigest} : {}
        )
      end

      private

      def column(column)
        large = []
        @connection.send_query_params(@table.files(column), [{value: PIECE.to_s, type: 23}], 1)
        @connection.set_single_row_mode
        while (result = @connection.get_result)
          result.check
          result.each_row do |id, ending, size, bytes|
            path = "#{@table.name}/#{column}/#{id}#{ending}"
            next large << [id, path, size.to_i] unless bytes
            file(path, bytes.bytesize, Core::Sum.of(bytes))
            yield path, bytes if block_given?
          end
        end
        large.each { |id, path, size| in_pieces(column, id, path, size) { |piece| yield path, piece if block_given? } }
      end

      def in_pieces(column, id, path, size)
        sum = OpenSSL::Digest.new("SHA256")
        (1..size).step(PIECE) do |from|
          piece = @connection.exec_params(
            "SELECT substring(#{column} from $1::int for $2::int) FROM #{@table.name} " \
              "WHERE #{@table.key.first}::text = $3",
            [from, PIECE, id],
            1
          ).getvalue(0, 0)
          sum << piece
          yield piece
        end
        file(path, size, sum.hexdigest)
      end
    end
  end
end
