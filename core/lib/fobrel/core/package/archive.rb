# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # A ZIP file from outside, opened with suspicion: every entry's name, size and place is
      # checked before anything is unpacked, and nothing is ever written outside the chosen folder.
      #
      #   Archive.open(File.open("kit.zip", "rb"), name: "kit.zip") { |files| files["bundle.json"] }
      class Archive
        # Raised in one sentence when a file is no ZIP that may be opened.
        class Refused < Problem; end

        MAX_BYTES = 1024 * 1024 * 1024
        MAX_ENTRIES = 50_000
        MAX_UNPACKED = 2 * 1024 * 1024 * 1024
        # What is packed tighter than this is a trap: PNG pictures hardly shrink, text does ten-fold.
        MAX_RATIO = 200
        RATIO_FROM = 1024 * 1024
        # Stands where the number of entries is told in the wider record (APPNOTE 4.4.1.4).
        ELSEWHERE = 0xFFFF
        SAFE_NAME = %r{\A(?!/)(?!.*(?:\A|/)\.{1,2}(?:/|\z))[^\\:\0]{1,400}\z}

        # @param bytes [String] the whole ZIP file
        # @param name [String] what to call it in a message
        # @return [Hash{String => String}] the files by their path, in the order they lie in the ZIP
        # @raise [Refused]
        def self.read(bytes, name: "The file")
          self.open(StringIO.new(bytes.b), name:) { |files| files.keys.to_h { [_1, files[_1]] } }
        end

        # Opens a ZIP whose files are unpacked one by one, as they are asked for.
        #
        # @param io [IO, StringIO] binary, that can be moved about in
        # @yieldparam files [Archive]
        # @return what the block gives
        # @raise [Refused] also while a file is unpacked
        def self.open(io, name: "The file")
          raise Refused, "#{name} is empty (0 bytes). Nothing was kept. Export it again." if io.size.zero?
          raise Refused, "#{name} is larger than #{MAX_BYTES / 1024**3} GB. Nothing was kept." if io.size > MAX_BYTES
          yield guarded(name) { new(io, name) }
        end

        # The ZIP library meets broken files with errors of every kind.
        def self.guarded(name)
          yield
        rescue Refused
          raise
        rescue
          raise Refused, "#{name} is no ZIP file, or it is damaged. Nothing was kept. Export it again."
        end

        def initialize(io, name)
          @io = io
          @name = name
          stated = counts(io)
          refuse("holds more than #{MAX_ENTRIES} files") if stated.max > MAX_ENTRIES
          entries = Zip::File.open_buffer(io).entries
          # The library keeps one of several that are called alike; which one, another program may see otherwise.
          once = stated.include?(entries.size)
          refuse("holds two files of the same name, or says wrongly how many it has") unless once
          refuse("has files that lie over one another") if overlapping?(entries)
          files = entries.reject(&:directory?).each { check(_1) }
          refuse("holds two files of the same name") if files.map { _1.name.downcase }.uniq.size < files.size
          refuse("would unpack to more than #{MAX_UNPACKED / 1024**3} GB") if files.sum(&:size) > MAX_UNPACKED
          @entries = files.to_h { [utf8(_1.name), _1] }
        end

        # @return [Array<String>] paths, in the order they lie in the ZIP
        def keys = @entries.keys

        def key?(path) = @entries.key?(path)

        # @return [String, nil] what lies at a path, unpacked and held against its sum
        # @raise [Refused]
        def [](path)
          entry = @entries[path] or return
          self.class.guarded(@name) { unpack(entry) }
        end

        private

        def refuse(why) = raise(Refused, "#{@name} #{why}. Nothing was kept. Ask for a new copy from its maker.")

        # How many entries it states, before the library makes an object of each; in a large one it may say so twice.
        def counts(io)
          io.seek(-[io.size, 66_000].min, IO::SEEK_END)
          tail = io.read.b
          io.rewind
          at = tail.rindex("PK\x05\x06".b) or refuse("is no ZIP file, or it is damaged")
          count = tail[at + 10, 2].unpack1("v")
          wide = tail.rindex("PK\x06\x06".b) or return [count]
          [count, tail[wide + 32, 8].to_s.unpack1("Q<") || 0] - [ELSEWHERE]
        end

        # A small ZIP can claim the same packed bytes for many files.
        def overlapping?(entries)
          entries.map {
            [
              _1.local_header_offset,
              _1.compressed_size
            ]
          }.sort.each_cons(2).any? { |(at, size), (following, _)| at + size + 30 > following }
        end

        def check(entry)
          unless utf8(entry.name).match?(SAFE_NAME)
            refuse(
              "has a path that leads out of its folder (#{utf8(entry.name)[0,
                80].inspect})"
            )
          end
          refuse("holds a link instead of a file") unless entry.file?
          refuse("holds an encrypted file") if entry.gp_flags & 1 == 1
          tight = entry.size > RATIO_FROM && entry.size > entry.compressed_size * MAX_RATIO
          refuse("is packed suspiciously tight") if tight
        end

        def utf8(name)
          text = name.dup.force_encoding(Encoding::UTF_8)
          text.valid_encoding? ? text : refuse("has a file name that is not UTF-8")
        end

        # The size a ZIP states may be a lie, so no more than that is ever unpacked. The library's
        # own way opens the file anew for each entry, which takes longer than everything else.
        def unpack(entry)
          data = plain(entry, packed(entry))
          refuse("states a wrong size for #{entry.name}") if data.bytesize != entry.size
          refuse("has a wrong checksum for #{entry.name}") if Zlib.crc32(data) != entry.crc
          data
        end

        # What follows an entry's own header: 30 bytes, its name, more fields (APPNOTE 4.3.7).
        def packed(entry)
          @io.seek(entry.local_header_offset)
          head = @io.read(30).to_s
          refuse("has no header for #{entry.name}") unless head.start_with?("PK\x03\x04".b) && head.bytesize == 30
          @io.seek(head[26, 4].unpack("vv").sum, IO::SEEK_CUR)
          @io.read(entry.compressed_size).to_s.b
        end

        def plain(entry, bytes)
          return bytes if entry.compression_method == Zip::Entry::STORED
          refuse("is packed in a way that is not read here") unless entry.compression_method == Zip::Entry::DEFLATED
          data = "".b
          inflater = Zlib::Inflate.new(-Zlib::MAX_WBITS)
          inflater.inflate(bytes) { |piece|
            (data << piece).bytesize > entry.size && refuse("states a wrong size for #{entry.name}")
          }
          data
        ensure
          inflater&.close
        end
      end
    end
  end
end
