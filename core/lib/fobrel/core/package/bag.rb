# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # The payload of a BagIt bag (RFC 8493), each file held against its checksum as it is read.
      class Bag
        DECLARATION = /\ABagIt-Version: (0\.97|1\.0)\r?\nTag-File-Character-Encoding: UTF-8\s*\z/

        # @param files [#keys, #[]] an opened ZIP; some programs wrap a bag in a folder of its own
        #   (RFC 8493, serialization)
        # @raise [Reader::Invalid] when it is none
        def initialize(files, name)
          @files = files
          @name = name
          at = files.keys.find { _1 == "bagit.txt" } || files.keys.find { _1.match?(%r{\A[^/]+/bagit\.txt\z}) }
          raise Reader::Invalid.new(name, ["It is not a package: it has no bagit.txt."]) unless at
          @base = at.delete_suffix("bagit.txt")
          unless file("bagit.txt").match?(DECLARATION)
            raise Reader::Invalid.new(
              name,
              ["Its bagit.txt is not that of a BagIt 1.0 bag."]
            )
          end
          @sums = manifest("manifest-sha256.txt")
          @held = Set.new
        end

        # Everything that can be told without unpacking the payload, and the sums of the tag files.
        #
        # @return [Array<String>] one sentence each
        def check
          lying = @files.keys.filter_map { _1.delete_prefix(@base) if _1.start_with?("#{@base}data/") }
          problems = []
          problems << "It has no manifest-sha256.txt." if @sums.empty?
          (@sums.keys - lying).each { problems << "#{_1} is listed but missing." }
          (lying - @sums.keys).each { problems << "#{_1} is not listed in manifest-sha256.txt." }
          tags = manifest("tagmanifest-sha256.txt")
          tags.each do |path, sum|
            if !@files.key?(@base + path) then problems << "#{path} is listed but missing."
            elsif Sum.of(file(path)) != sum then problems << "#{path} was changed since " \
              "it was packed."
            end
          end
          problems
        end

        # @return [Array<String>] paths below data/
        def keys = @sums.keys.map { _1.delete_prefix("data/") }

        # Whether a file was read, and is what was packed.
        def held?(path) = @held.include?(path)

        # @return [String, nil] the SHA-256 that a path was held against
        def sum(path) = @sums["data/#{path}"]

        # @return [String, nil]
        # @raise [Reader::Invalid] when it is not what was packed
        def [](path)
          listed = @sums["data/#{path}"] or return
          bytes = file("data/#{path}")
          return bytes.tap { @held << path } if Sum.of(bytes) == listed
          raise Reader::Invalid.new(@name, ["data/#{path} was changed since it was packed."])
        end

        private

        def file(path) = @files[@base + path]

        def manifest(path)
          (file(path) || "").scrub.lines(chomp: true).filter_map {
            _1.match(/\A(\h{64})\s+\*?(.+)\z/)
          }.to_h { [_1[2].dup.force_encoding(Encoding::UTF_8), _1[1].downcase] }
        end
      end
    end
  end
end
