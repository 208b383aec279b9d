# frozen_string_literal: true

require "csv"

module Fobrel
  module Backups
    # A backup of the whole studio, opened for reading. It comes from outside: what it holds is held against its own
    # sums before anything of it is used.
    #
    #   Copy.open("night.fobrel-studio.zip") { |copy| copy.check; copy.description["made_at"] }
    class Copy
      # Raised in one sentence when it is none, or not whole.
      class Damaged < Core::Problem; end

      # A whole studio may be large.
      LIMITS = Core::Package::Archive::Limits.new(
        bytes: 1024**4,
        entries: 20_000_000,
        unpacked: 8 * (1024**4),
        ratio: 2000
      )
      # studio.json, bytes.
      DESCRIBED = 16 * 1024 * 1024
      private_constant :LIMITS, :DESCRIBED

      # @param path [String]
      # @yieldparam copy [Copy]
      # @return what the block gives
      # @raise [Damaged]
      def self.open(path)
        name = File.basename(path)
        File.open(path, "rb") do |io|
          Core::Package::Archive.open(io, name:, limits: LIMITS) { |files| yield new(path, files) }
        end
      rescue Core::Package::Archive::Refused => e
        raise Damaged, "#{e.message[/\A.*?[.!](?= )|\A.*\z/]} Nothing was changed. Take another backup."
      end

      # @return [Hash] studio.json
      attr_reader :description

      def initialize(path, files)
        @path = path
        @files = files
        @description = read
      end

      # Whether every byte is as it was written.
      #
      # @return [Hash] rows, files and their bytes
      # @raise [Damaged]
      def check
        whole
        tables = description.fetch("tables")
        expected = tables.flat_map { |name, told|
          (1..told["parts"]).map {
            path(name, _1)
          } + files(name).map { |_, path|
                path
              }
        }
        stray = @files.keys - expected - [Write::DESCRIPTION]
        damaged("holds what no table speaks of: #{stray.first(3).join(", ")}") if stray.any?
        tables.each { |name, told| table(name, told) }
        {
          rows: tables.each_value.sum { _1["rows"] },
          files: tables.each_value.sum { _1["files"] || 0 },
          bytes: File.size(@path)
        }
      end

      # @param name [String] of a table
      # @yieldparam piece [String] of its rows as CSV, without a head
      def lines(name, &)
        told = description.fetch("tables").fetch(name)
        (1..told["parts"]).each { |number| part(name, told, number, &) }
      end

      # The same, each part of the table whole (Write::PART); no row lies in two.
      #
      # @yieldparam text [String] rows as CSV
      def each_part(name)
        told = description.fetch("tables").fetch(name)
        (1..told["parts"]).each do |number|
          text = "".b
          part(name, told, number) { |piece| text << piece }
          yield text.force_encoding(Encoding::UTF_8)
        end
      end

      # @param name [String] of a table
      # @return [Array<Array(String, String)>] its files: as their table names them, and where they lie in the ZIP; in
      #   the order they were written
      def files(name)
        @by_table ||= @files.keys.filter_map { |path|
          path.match(%r{\Afiles/((\w+)/.+)\z}) && [$2, $1, path]
        }.group_by(&:first).transform_values { |some| some.map { _1.drop(1) } }
        @by_table.fetch(name, [])
      end

      # @param path [String] in the ZIP
      # @yieldparam piece [String]
      def each_piece(path, &) = @files.each_piece(path, &)

      private

      def damaged(why)
        raise Damaged, "#{File.basename(@path)} #{why}. Nothing was changed. Take another backup."
      end

      def read
        text = "".b
        there = @files.each_piece(Write::DESCRIPTION) do |piece|
          damaged("has a #{Write::DESCRIPTION} that is too large") if (text << piece).bytesize > DESCRIBED
        end
        damaged("is not a backup of a whole studio: it has no #{Write::DESCRIPTION}") unless there
        found = JSON.parse(text.force_encoding(Encoding::UTF_8).scrub, max_nesting: 6)
        return found if SHAPE.valid?(found)
        damaged("is written in a way that this Fobrel does not read (#{Write::DESCRIPTION})")
      rescue JSON::ParserError
        damaged("has a #{Write::DESCRIPTION} that is not JSON")
      end

      # As sha256sum wrote it beside the file, where it still lies there.
      def whole
        said = "#{@path}.sha256"
        return unless File.file?(said)
        wanted = File.read(said, 64)
        return if wanted == OpenSSL::Digest::SHA256.file(@path).hexdigest
        damaged("has another sum than #{File.basename(said)} says")
      end

      # Rows of one part, without its head.
      def part(name, told, number)
        path = path(name, number)
        head = told["columns"].to_csv.b
        first = "".b
        open = false
        there = @files.each_piece(path) do |piece|
          next yield piece if open
          first << piece
          next if first.bytesize < head.bytesize
          damaged("names other columns in #{path} than in #{Write::DESCRIPTION}") unless first.start_with?(head)
          open = true
          yield first.byteslice(head.bytesize..) if first.bytesize > head.bytesize
        end
        damaged("lacks #{path}") unless there && open
      end

      def path(name, number) = format("tables/%s/%04d.csv", name, number)

      def table(name, told)
        sum = OpenSSL::Digest.new("SHA256")
        lines(name) { |piece| sum << piece }
        damaged("has other rows of #{name} than it was made with") unless sum.hexdigest == told["sha256"]
        found = OpenSSL::Digest.new("SHA256")
        files(name).each do |called, path|
          one = OpenSSL::Digest.new("SHA256")
          each_piece(path) { |piece| one << piece }
          found << "#{one.hexdigest} #{called}\n"
        end
        return if found.hexdigest == (told["files_sha256"] || OpenSSL::Digest::SHA256.hexdigest(""))
        damaged("has other files of #{name} than it was made with")
      end

      NAME = {"type" => "string", "pattern" => "\\A[a-z0-9_]{1,63}\\z"}.freeze
      SUM = {"type" => "string", "pattern" => "\\A[0-9a-f]{64}\\z"}.freeze
      COUNT = {"type" => "integer", "minimum" => 0}.freeze
      # studio.json, as docs/formats.md describes it.
      SHAPE = Core::JsonSchema.load(
        {
          "type" => "object",
          "required" => %w[format made_at version passwords sequences tables],
          "properties" => {
            "format" => {"const" => Write::FORMAT},
            "made_at" => {"type" => "string"},
            "version" => {"type" => "array", "items" => {"type" => "string", "pattern" => "\\A\\d{1,20}\\z"}},
            "passwords" => {"type" => "boolean"},
            "sequences" => {"type" => "object", "propertyNames" => NAME, "additionalProperties" => COUNT},
            "tables" => {
              "type" => "object",
              "propertyNames" => NAME,
              "additionalProperties" => {
                "type" => "object",
                "required" => %w[rows sha256 columns parts],
                "properties" => {
                  "rows" => COUNT,
                  "sha256" => SUM,
                  "columns" => {"type" => "array", "minItems" => 1, "items" => NAME},
                  "parts" => COUNT.merge("maximum" => 1_000_000),
                  "files" => COUNT,
                  "bytes" => COUNT,
                  "files_sha256" => SUM
                }
              }
            }
          }
        }
      )
      private_constant :NAME, :SUM, :COUNT, :SHAPE
    end
  end
end
