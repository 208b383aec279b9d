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

        # What an archive may be: its bytes, its files, their bytes unpacked, and how tight each may be packed.
        Limits = Struct.new(:bytes, :entries, :unpacked, :ratio, keyword_init: true)
        # What is packed tighter than this is a trap: PNG pictures hardly shrink, text does ten-fold.
        USUAL = Limits.new(bytes: 1024**3, entries: 50_000, unpacked: 2 * (1024**3), ratio: 200)
        RATIO_FROM = 1024 * 1024
        # So much of a file is read at once.
        PIECE = 1024 * 1024
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
        # @param limits [Limits]
        # @yieldparam files [Archive]
        # @return what the block gives
        # @raise [Refused] also while a file is unpacked
        def self.open(io, name: "The file", limits: USUAL)
          raise Refused, "#{name} is empty (0 bytes). Nothing was kept. Export it again." if io.size.zero?
          if io.size > limits.bytes
            raise Refused, "#{name} is larger than #{limits.bytes / 1024**3} GB. Nothing was kept."
          end
          yield guarded(name) { new(io, name, limits) }
        end

        # The ZIP library meets broken files with errors of every kind.
        def self.guarded(name)
          yield
        rescue Refused
          raise
        rescue
          raise Refused, "#{name} is not a ZIP file, or it is damaged. Nothing was kept. Export it again."
        end

        def initialize(io, name, limits = USUAL)
          @io = io
          @name = name
          @limits = limits
          stated = counts(io)
          refuse("holds more than #{limits.entries} files") if stated.max > limits.entries
          entries = Zip::File.open_buffer(io).entries
          # The library keeps one of several that are called alike; which one, another program may see otherwise.
          once = stated.include?(entries.size)
          refuse("holds two files of the same name, or says wrongly how many it has") unless once
          refuse("has files that lie over one another") if overlapping?(entries)
          files = entries.reject(&:directory?).each { check(_1) }
          refuse("holds two files of the same name") if files.map { _1.name.downcase }.uniq.size < files.size
          refuse("would unpack to more than #{limits.unpacked / 1024**3} GB") if files.sum(&:size) > limits.unpacked
          @entries = files.to_h { [utf8(_1.name), _1] }
        end

        # @return [Array<String>] paths, in the order they lie in the ZIP
        def keys = @entries.keys

        def key?(path) = @entries.key?(path)

        # @return [String, nil] what lies at a path, unpacked and held against its sum
        # @raise [Refused]
        def [](path)
          data = "".b
          data if each_piece(path) { data << _1 }
        end

        # Unpacks a file of any size.
        #
        # @yieldparam piece [String] of its bytes
        # @return [Boolean] whether there is one
        # @raise [Refused] where its size or its sum is another than is stated, perhaps after some pieces
        def each_piece(path)
          entry = @entries[path] or return false
          size, sum = 0, 0
          guarded_pieces(entry) do |piece|
            size += piece.bytesize
            # The size a ZIP states may be a lie, so no more than that is ever unpacked.
            refuse("states a wrong size for #{entry.name}") if size > entry.size
            sum = Zlib.crc32(piece, sum)
            yield piece
          end
          refuse("states a wrong size for #{entry.name}") if size != entry.size
          refuse("has a wrong checksum for #{entry.name}") if sum != entry.crc
          true
        end

        private

        def refuse(why) = raise(Refused, "#{@name} #{why}. Nothing was kept. Ask for a new copy from its maker.")

        # How many entries it states, before the library makes an object of each; in a large one it may say so twice.
        def counts(io)
          io.seek(-[io.size, 66_000].min, IO::SEEK_END)
          tail = io.read.b
          io.rewind
          at = tail.rindex("PK\x05\x06".b) or refuse("is not a ZIP file, or it is damaged")
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
          tight = entry.size > RATIO_FROM && entry.size > entry.compressed_size * @limits.ratio
          refuse("is packed suspiciously tight") if tight
        end

        def utf8(name)
          text = name.dup.force_encoding(Encoding::UTF_8)
          text.valid_encoding? ? text : refuse("has a file name that is not UTF-8")
        end

        # Errors of the ZIP are told in our words; those of whoever takes the pieces are not.
        def guarded_pieces(entry)
          theirs = nil
          self.class.guarded(@name) do
            pieces(entry) do |piece|
              yield piece
            rescue => e
              theirs = e
              raise
            end
          end
        rescue Refused
          raise theirs || $!
        end

        # The library's own way opens the file anew for each entry, which takes longer than everything else.
        def pieces(entry, &)
          return packed(entry, &) if entry.compression_method == Zip::Entry::STORED
          refuse("is packed in a way that is not read here") unless entry.compression_method == Zip::Entry::DEFLATED
          inflater = Zlib::Inflate.new(-Zlib::MAX_WBITS)
          packed(entry) { |bytes| inflater.inflate(bytes, &) }
        ensure
          inflater&.close
        end

        # What follows an entry's own header: 30 bytes, its name, more fields (APPNOTE 4.3.7).
        def packed(entry)
          @io.seek(entry.local_header_offset)
          head = @io.read(30).to_s
          refuse("has no header for #{entry.name}") unless head.start_with?("PK\x03\x04".b) && head.bytesize == 30
          at = entry.local_header_offset + 30 + head[26, 4].unpack("vv").sum
          left = entry.compressed_size
          while left.positive?
            @io.seek(at) # whoever takes the pieces may read others meanwhile
            bytes = @io.read([left, PIECE].min) or break
            at += bytes.bytesize
            left -= bytes.bytesize
            yield bytes.b
          end
        end
      end
    end
  end
end
