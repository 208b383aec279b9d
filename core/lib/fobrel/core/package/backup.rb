# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # What a backup of a library has beside what every package has: the categories, statuses, bundles
      # with their releases and start-up plans (`library.json`), and the versions of each brush
      # (`versions/<id>.json`). `core/data/library.schema.json` says how both are written.
      class Backup
        FORMAT = "fobrel.library/1"
        SCHEMA = JSON.parse(File.read(File.join(DATA, "library.schema.json")))
        LIBRARY = JsonSchema.load(SCHEMA)
        HISTORY = LIBRARY.ref("#/$defs/history")
        MAX_BYTES = 64 * 1024 * 1024
        private_constant :SCHEMA, :LIBRARY, :HISTORY

        # @return [Hash] `library.json`
        attr_reader :library
        # @return [Hash{String => Array<Hash>}] the versions of each brush by its identity, oldest
        #   first; each with its number, at, by, note, name, and its preset unless it is current
        attr_reader :histories
        # @return [Hash{String => Bundle::Asset}] the releases' packages by their SHA-256
        attr_reader :releases

        def initialize(library:, histories: {}, releases: {})
          @library = library
          @histories = histories
          @releases = releases
        end

        # @return [Backup] with other histories or releases
        def with(**parts) = Backup.new(library:, histories:, releases:, **parts)

        # @param payload [#keys, #[]] the files below data/
        # @param aside [Proc] told of each odd thing in them, which is left out: its name, a sentence
        # @yieldparam problem [String] what is wrong with one of its files as a whole
        # @return [Backup, nil] nil where the package is none; without the releases' bytes
        def self.read(payload, aside: ->(*) {}, &problem)
          json = payload["library.json"] or return
          library = checked(json, "library.json", LIBRARY, aside, &problem)
          lists = payload.keys.filter_map { |path|
            (id = path[%r{\Aversions/([^/]+)\.json\z},
              1]) && (list = checked(payload[path], path, HISTORY, aside, &problem)) && [id, list]
          }
          library && new(library:, histories: lists.to_h)
        end

        def self.checked(json, path, schema, aside)
          return yield("#{path} is larger than #{MAX_BYTES / 1024 / 1024} MB.") && nil if json.bytesize > MAX_BYTES
          return yield("#{path} holds a NUL, which cannot be kept.") && nil if json.gsub("\\\\", "").include?("\\u0000")
          found = JSON.parse(json.dup.force_encoding("UTF-8").scrub, max_nesting: Preset::Preset::MAX_DEPTH + 2)
          wrong = Prune.call(found, schema) { |what, why| aside.call(path, "#{what} is left out of #{path}: #{why}") }
          wrong ? yield("#{path}: #{Preset::Schema::Sentence.of(wrong, whole: "it")}") && nil : found
        rescue JSON::ParserError
          yield("#{path} is not JSON.") && nil
        end
        private_class_method :checked

        # @return [Array<Preset::Preset>] the versions that are not current
        def presets
          @presets ||= histories.each_value.flat_map { |list|
            list.filter_map {
              _1["preset"]
            }
          }.map { Preset::Preset.restore(_1) }
        end

        # @return [Hash{String => String, Writer::Later}] its files below data/
        def files
          lists = histories.sort.to_h { |id, list| ["versions/#{id}.json", Writer.pretty(list)] }
          packed = releases.sort.to_h { |sum, asset|
            [
              "releases/#{sum}.fobrel.zip",
              Writer::Later.new(
                sum,
                asset.bytesize,
                -> {
                  asset.bytes
                }
              )
            ]
          }
          {"library.json" => Writer.pretty(library)}.merge(lists, packed)
        end

        # Without what cannot be a version of a brush at hand.
        #
        # @param items [Array<Bundle::Item>]
        # @yieldparam name [String] of the brush
        # @yieldparam sentence [String] why one was left out
        # @return [Backup]
        def of(items, &trouble)
          with(
            histories: items.filter_map { |item|
              histories[item.preset.id] && [item.preset.id, sound(item, &trouble)]
            }.to_h
          )
        end

        # Without versions whose pictures are missing.
        #
        # @param pictures [#include?] references
        # @yield as #of
        # @return [Backup]
        def whole(pictures)
          with(
            histories: histories.transform_values { |list|
              list.reject do |version|
                preset = version["preset"] && Preset::Preset.restore(version["preset"])
                missing = preset && Preset::MissingNeed.of(preset, pictures) or next
                yield preset.name, "Version #{version["number"]}: #{missing.message}"
                true
              end
            }
          )
        end

        # With the package of every release that has a sound one, without the other releases.
        #
        # @yieldparam release [Hash] as `library.json` lists it
        # @yieldparam called [String] the bundle's name with the release's number
        # @yieldreturn [Bundle::Asset, nil]
        # @return [Backup]
        def with_releases
          found = {}
          bundles = library["bundles"].map do |bundle|
            bundle.merge(
              "releases" => rising(bundle["releases"]).select { |release|
                (asset = yield(release, "#{bundle["name"]} #{release["number"]}")) && found[release["sha256"]] = asset
              }
            )
          end
          with(library: library.merge("bundles" => bundles), releases: found)
        end

        private

        # A bundle's releases follow each other, and none is the package of another.
        def rising(releases)
          last = nil
          releases.uniq { _1["sha256"] }.select do |release|
            number = Curation::ReleaseNumber.parts(release["number"])
            (last.nil? || (number <=> last).positive?) && last = number
          end
        end

        def sound(item)
          histories[item.preset.id].uniq { _1["number"] }.filter_map do |version|
            next version.except("preset") if version["number"] == item.version
            wrong = "Its settings are not in this backup."
            wrong = wrong(version["preset"], item.preset.id) if version["preset"]
            next version unless wrong
            yield item.preset.name, "Version #{version["number"]} of “#{item.preset.name}” is left out. #{wrong}"
            nil
          end
        end

        def wrong(document, id)
          (Preset::Preset[document].id == id) ? nil : "It belongs to another brush."
        rescue Preset::Preset::Invalid => e
          e.message
        end
      end
    end
  end
end
