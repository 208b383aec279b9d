# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # What a project stood on at a moment: `fobrel.lock`, with every bundle that a library follows at its release, and
      # every brush by version and fingerprint. A folder of presets, or another lock, is held against it.
      #
      #   lock = LockFile.parse(File.read("fobrel.lock"))
      #   lock.differences(LockFile.prints("presets/"))   # => [Difference]
      class LockFile
        # Raised with all that is wrong with a file.
        class Invalid < Problem; end

        FORMAT = "fobrel.lock/1"
        SCHEMA = JSON.parse(File.read(File.join(DATA, "lock.schema.json")))
        CHECKER = JsonSchema.load(SCHEMA)
        MAX_BYTES = 8 * 1024 * 1024
        private_constant :CHECKER

        # `kind` is "missing", "other" (another content under this identity) or "more" (not in the lock).
        Difference = Struct.new(:kind, :id, :name, :locked, :found) do
          # @return [String] in one line
          def to_s
            {
              "missing" => "#{name}: missing",
              "other" => "#{name}: other settings",
              "more" => "#{name}: not in the lock"
            }
              .fetch(kind)
          end
        end

        # @param json [String]
        # @return [LockFile]
        # @raise [Invalid] in one sentence
        def self.parse(json, name: "The lock file")
          raise Invalid, "#{name} is larger than #{MAX_BYTES / 1024 / 1024} MB." if json.bytesize > MAX_BYTES
          document = JSON.parse(json.dup.force_encoding(Encoding::UTF_8).scrub, max_nesting: 12)
          fault = CHECKER.validate(document).first
          raise Invalid, "#{name} is not a lock file of Fobrel#{where(fault)}. Choose another." if fault
          new(document)
        rescue JSON::ParserError
          raise Invalid, "#{name} is not JSON, or damaged."
        end

        # What of a lock differs from what is found: for a process apart, so that whoever asks never holds the file
        # itself.
        #
        # @param json [String]
        # @param found [Hash{String => Array(String, String)}]
        # @return [Array(String, Array<Difference>)] the lock's moment, and what differs
        # @raise [Invalid]
        def self.compare(json, found) = parse(json).then { |lock| [lock.to_h["at"], lock.differences(found)] }

        # @param fault [Hash] as the schema's checker tells it
        # @return [String] the place in the file, where there is one
        def self.where(fault) = fault["data_pointer"].empty? ? "" : ": #{fault["data_pointer"]} is wrong"
        private_class_method :where

        # @param library [String] its name
        # @param follows [Array<Hash>] "bundle", "library", "release", "sha256"
        # @param brushes [Array<Hash>] "id", "name", "version", "fingerprint"
        # @param at [Time]
        # @return [LockFile]
        def self.build(library:, follows:, brushes:, at:)
          new(
            "format" => FORMAT,
            "library" => library,
            "at" => at.utc.iso8601,
            "follows" => follows.sort_by { |one| one.values_at("library", "bundle") },
            "brushes" => brushes.sort_by { |one| one["id"] }
          )
        end

        # What lies in a folder: presets as JSON files, at any depth; a start folder too.
        #
        # @param folder [String]
        # @return [Hash{String => Array(String, String)}] name and fingerprint by identity
        # @raise [Problem] where there is no such folder
        def self.prints(folder)
          raise Problem, "#{folder} is not a folder." unless File.directory?(folder)
          found = Dir.glob(["**/*.json", "{startup,shelf}/*.json"], base: folder).uniq.filter_map do |path|
            value = Preset::Preset.parse(File.read(File.join(folder, path)), name: path)
            [value.id, [value.name, value.fingerprint]]
          rescue Preset::Preset::Invalid, Preset::Preset::Later
            nil # a listing, or no preset of ours
          end
          found.to_h
        end

        # @return [Hash]
        attr_reader :to_h

        def initialize(document)
          @to_h = document.freeze
        end

        def brushes = to_h["brushes"]

        # The same content gives the same bytes, but for the moment.
        #
        # @return [String] JSON
        def to_json(*) = "#{JSON.pretty_generate(to_h)}\n"

        # @param found [Hash{String => Array(String, String)}] name and fingerprint by identity
        # @return [Array<Difference>] by name
        def differences(found)
          mine = brushes.to_h { |one| [one["id"], one] }
          gone = mine.filter_map do |id, one|
            _, print = found[id]
            next if print == one["fingerprint"]
            Difference.new(print ? "other" : "missing", id, one["name"], one["fingerprint"], print)
          end
          more = found.except(*mine.keys).map { |id, (name, print)| Difference.new("more", id, name, nil, print) }
          (gone + more).sort_by { |one| [one.name.downcase, one.id] }
        end
      end
    end
  end
end
