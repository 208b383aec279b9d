# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # A ZIP file from outside, opened with suspicion: every entry's name and size is checked
      # before anything is unpacked, and nothing is ever written outside the chosen folder.
      class Archive
        # Raised in one sentence when a file is no ZIP that may be opened.
        class Refused < Problem; end

        MAX_BYTES = 1024 * 1024 * 1024
        MAX_ENTRIES = 50_000
        MAX_UNPACKED = 2 * 1024 * 1024 * 1024
        # What is packed tighter than this is a trap: PNG pictures hardly shrink, text does ten-fold.
        MAX_RATIO = 200
        RATIO_FROM = 1024 * 1024
        SAFE_NAME = %r{\A(?!/)(?!.*(?:\A|/)\.{1,2}(?:/|\z))[^\\:\0]{1,400}\z}

        # @param bytes [String] the whole ZIP file
        # @param name [String] what to call it in a message
        # @return [Hash{String => String}] the files by their path, in the order they lie in the ZIP
        # @raise [Refused]
        def self.read(bytes, name: "The file")
          raise Refused, "#{name} is empty (0 bytes). Nothing was kept. Export it again." if bytes.empty?
          raise Refused, "#{name} is larger than #{MAX_BYTES / 1024**3} GB. Nothing was kept." if bytes.bytesize > MAX_BYTES
          new(name).read(bytes)
        rescue Refused
          raise
        rescue # the ZIP library meets broken headers with errors of every kind
          raise Refused, "#{name} is no ZIP file, or it is damaged. Nothing was kept. Export it again."
        end

        def initialize(name)
          @name = name
        end

        def read(bytes)
          Zip::File.open_buffer(StringIO.new(bytes.b)) do |zip|
            entries = zip.entries
            refuse("holds more than #{MAX_ENTRIES} files") if entries.size > MAX_ENTRIES
            files = entries.reject(&:directory?).each { check(_1) }
            refuse("holds two files of the same name") if files.map { _1.name.downcase }.uniq.size < files.size
            refuse("would unpack to more than #{MAX_UNPACKED / 1024**3} GB") if files.sum(&:size) > MAX_UNPACKED
            return files.to_h { [utf8(_1.name), unpack(_1)] }
          end
        end

        private

        def refuse(why) = raise(Refused, "#{@name} #{why}. Nothing was kept. Ask for a new copy from its maker.")

        def check(entry)
          refuse("has a path that leads out of its folder (#{utf8(entry.name)[0, 80].inspect})") unless utf8(entry.name).match?(SAFE_NAME)
          refuse("holds a link instead of a file") unless entry.file?
          refuse("holds an encrypted file") if entry.gp_flags & 1 == 1
          refuse("is packed suspiciously tight") if entry.size > RATIO_FROM && entry.size > entry.compressed_size * MAX_RATIO
        end

        def utf8(name)
          text = name.dup.force_encoding(Encoding::UTF_8)
          text.valid_encoding? ? text : refuse("has a file name that is not UTF-8")
        end

        # The size a ZIP states may be a lie, so no more than that is ever read.
        def unpack(entry)
          data = entry.get_input_stream { |io| io.read(entry.size + 1) } || "".b
          refuse("states a wrong size for #{entry.name}") if data.bytesize != entry.size
          refuse("has a wrong checksum for #{entry.name}") if Zlib.crc32(data) != entry.crc
          data.b
        end
      end
    end
  end
end
