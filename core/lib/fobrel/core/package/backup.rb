# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # What a backup of a library has beside what every package has: the families, labels, bundles
      # with their releases and start plans (`library.json`), and the editions of each brush
      # (`editions/<id>.json`). `core/data/library.schema.json` says how both are written.
      class Backup
        FORMAT = "fobrel.library/1"
        SCHEMA = JSON.parse(File.read(File.join(DATA, "library.schema.json")))
        LIBRARY = JSONSchemer.schema(SCHEMA)
        HISTORY = LIBRARY.ref("#/$defs/history")
        MAX_BYTES = 64 * 1024 * 1024
        private_constant :SCHEMA, :LIBRARY, :HISTORY

        # @return [Hash] `library.json`
        attr_reader :library
        # @return [Hash{String => Array<Hash>}] the editions of each brush by its identity, oldest
        #   first; each with its number, at, by, note, name, and its preset unless it is current
        attr_reader :histories
        # @return [Hash{String => Bundle::Asset}] the releases' packages by their SHA-256
        attr_reader :releases

        def initialize(library:, histories: {}, releases: {})
          @library = library
          @histories = histories
          @releases = releases
        end

        # @param payload [#keys, #[]] the files below data/
        # @yieldparam problem [String] what is wrong with one of its files as a whole
        # @return [Backup, nil] nil where the package is none; without the releases' bytes
        def self.read(payload, &problem)
          json = payload["library.json"] or return
          library = checked(json, "library.json", LIBRARY, &problem)
          lists = payload.keys.filter_map { |path| (id = path[%r{\Aeditions/([^/]+)\.json\z}, 1]) && (list = checked(payload[path], path, HISTORY, &problem)) && [id, list] }
          library && new(library:, histories: lists.to_h)
        end

        def self.checked(json, path, schema)
          return yield("#{path} is larger than #{MAX_BYTES / 1024 / 1024} MB.") && nil if json.bytesize > MAX_BYTES
          return yield("#{path} holds a NUL, which cannot be kept.") && nil if json.gsub("\\\\", "").include?("\\u0000")
          found = JSON.parse(json.dup.force_encoding("UTF-8").scrub, max_nesting: Preset::Preset::MAX_DEPTH + 2)
          wrong = schema.validate(found).first
          wrong ? yield("#{path}: #{Preset::Schema::Sentence.of(wrong)}") && nil : found
        rescue JSON::ParserError
          yield("#{path} is not JSON.") && nil
        end
        private_class_method :checked

        # @return [Array<Preset::Preset>] the editions that are not current
        def presets = histories.each_value.flat_map { |list| list.filter_map { _1["preset"] } }.map { Preset::Preset.restore(_1) }

        # @return [Hash{String => String, Writer::Later}] its files below data/
        def files
          lists = histories.sort.to_h { |id, list| ["editions/#{id}.json", Writer.pretty(list)] }
          packed = releases.sort.to_h { |sum, asset| ["releases/#{sum}.fobrel.zip", Writer::Later.new(sum, asset.bytesize, -> { asset.bytes })] }
          {"library.json" => Writer.pretty(library)}.merge(lists, packed)
        end

        # Leaves out what cannot be an edition of a brush at hand.
        #
        # @param items [Array<Bundle::Item>]
        # @yieldparam name [String] of the brush
        # @yieldparam sentence [String] why one was left out
        def keep_editions_of(items, &trouble)
          @histories = items.filter_map { |item| histories[item.preset.id] && [item.preset.id, sound(item, &trouble)] }.to_h
        end

        # Leaves out editions whose pictures are missing.
        #
        # @param pictures [#key?] by reference
        def keep_whole(pictures)
          histories.each_value do |list|
            list.reject! do |edition|
              need = edition["preset"] && Preset::Preset.restore(edition["preset"]).needs.find { !pictures.key?(_1) } or next
              yield edition["preset"]["name"], "Edition #{edition["number"]}: #{Preset::MissingNeed.new(Preset::Preset.restore(edition["preset"]), need).message}"
              true
            end
          end
        end

        # Asks for the package of every release, and leaves out those without a sound one.
        #
        # @yieldparam release [Hash] as `library.json` lists it
        # @yieldparam called [String] the bundle's name with the release's number
        # @yieldreturn [Bundle::Asset, nil]
        def keep_releases
          library["bundles"].each do |bundle|
            bundle["releases"].select! { |release| (asset = yield(release, "#{bundle["name"]} #{release["number"]}")) && @releases[release["sha256"]] = asset }
          end
        end

        private

        def sound(item)
          histories[item.preset.id].uniq { _1["number"] }.filter_map do |edition|
            next edition.except("preset") if edition["number"] == item.edition
            wrong = edition["preset"] ? wrong(edition["preset"], item.preset.id) : "Its settings are not in this backup."
            yield item.preset.name, "Edition #{edition["number"]} of “#{item.preset.name}” is left out. #{wrong}" if wrong
            edition unless wrong
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
