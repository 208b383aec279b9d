# frozen_string_literal: true

module Fobrel
  module Models
    # A file of an import, as it came, in pieces.
    class ImportFile < Record
      belongs_to :import
      has_many :chunks, -> { order(:position) }, class_name: "Fobrel::Models::ImportChunk"

      PIECE = 8 * 1024 * 1024

      # @param io [IO]
      # @param most [Integer] bytes
      # @return [Integer] bytes kept
      # @raise [Core::Problem] when it is larger
      def fill(io, most:)
        size = 0
        while (bytes = io.read(PIECE))
          size += bytes.bytesize
          if size > most
            raise Core::Problem,
              "“#{name}” is larger than #{most / 1024 / 1024} MB. Nothing was kept of it."
          end
          RawColumn.put(
            "INSERT INTO import_chunks (import_file_id, position, bytes) VALUES ($1, $2, $3)",
            id,
            size,
            bytes:
          )
        end
        update!(size:)
        size
      end

      # @return [Tempfile] binary, at its beginning; it has no name any more, so that nothing is left of it
      #   whatever becomes of this process
      def unpacked
        Tempfile.new("fobrel-import", binmode: true).tap(&:unlink).tap do |file|
          chunks.ids.each { |chunk| file.write(RawColumn.get("SELECT bytes FROM import_chunks WHERE id = $1", chunk)) }
          file.rewind
        end
      end
    end
  end
end
