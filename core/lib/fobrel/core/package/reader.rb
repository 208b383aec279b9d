# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # Takes a package apart and believes nothing: the bag's checksums, the presets, the needs
      # and the pictures are all checked before anything is handed on.
      class Reader
        # Raised with all that is wrong with a package.
        class Invalid < Problem
          # @return [Array<String>] one sentence each
          attr_reader :problems

          def initialize(name, problems)
            @problems = problems
            super("#{name} cannot be used: #{problems.first(5).join(" ")}" \
              "#{" (and #{problems.size - 5} more)" if problems.size > 5} Nothing was kept. Ask for a new copy from its maker.")
          end
        end

        # @param bytes [String] a `.fobrel.zip` file
        # @param name [String] what to call it in a message
        # @return [Bundle]
        # @raise [Archive::Refused, Invalid]
        def self.read(bytes, name: "The package") = new(name).read(Archive.read(bytes, name:))

        # Reads the files below data/, from a folder or an opened package.
        #
        # @param payload [Hash{String => String}]
        # @return [Bundle]
        # @raise [Invalid]
        def self.read_payload(payload, name: "The folder") = new(name).bundle(payload)

        def initialize(name)
          @name = name
          @problems = []
        end

        def read(files)
          bundle(unbag(rooted(files)))
        end

        def bundle(payload)
          description = description(payload)
          presets = payload.filter_map { |path, json| preset(path, json) if path.match?(%r{\Apresets/[^/]+\.json\z}) }.to_h
          stop if @problems.any?
          items = items(description, presets)
          assets = assets(payload, presets.each_value)
          strips = strips(payload, presets)
          stop if @problems.any?
          built = words(description).merge(items:, assets:, strips:, sets: sets(description), tags: tags(description))
          Bundle.new(**built)
        rescue Bundle::Invalid => e
          @problems << e.message
          stop
        end

        private

        def stop = raise(Invalid.new(@name, @problems))

        # Some programs wrap a bag in a folder of its own (RFC 8493, serialization).
        def rooted(files)
          return files if files.key?("bagit.txt")
          base = files.keys.find { _1.match?(%r{\A[^/]+/bagit\.txt\z}) }
          raise Invalid.new(@name, ["It is not a package: it has no bagit.txt."]) unless base
          base = base.delete_suffix("bagit.txt")
          files.select { |path, _| path.start_with?(base) }.transform_keys { _1.delete_prefix(base) }
        end

        def unbag(files)
          unless files["bagit.txt"].match?(/\ABagIt-Version: (0\.97|1\.0)\r?\nTag-File-Character-Encoding: UTF-8\s*\z/)
            raise Invalid.new(@name, ["Its bagit.txt is not that of a BagIt 1.0 bag."])
          end
          data, tags = files.partition { |path, _| path.start_with?("data/") }.map(&:to_h)
          compare(data, "manifest-sha256.txt", files, complete: true)
          compare(tags, "tagmanifest-sha256.txt", files, complete: false) if files.key?("tagmanifest-sha256.txt")
          stop if @problems.any?
          data.transform_keys { _1.delete_prefix("data/") }
        end

        def compare(present, manifest, files, complete:)
          listed = (files[manifest] || "").scrub.lines(chomp: true).filter_map { _1.match(/\A(\h{64})\s+\*?(.+)\z/) }.to_h { [_1[2], _1[1].downcase] }
          @problems << "It has no #{manifest}." if listed.empty?
          listed.each do |path, sum|
            if !present.key?(path) then @problems << "#{path} is listed but missing."
            elsif Digest::SHA256.hexdigest(present[path]) != sum then @problems << "#{path} was changed since it was packed."
            end
          end
          (present.keys - listed.keys).each { @problems << "#{_1} is not listed in #{manifest}." } if complete
        end

        def description(payload)
          json = payload["bundle.json"] or return {}
          found = JSON.parse(json.dup.force_encoding("UTF-8").scrub, max_nesting: 12)
          return found if shaped?(found)
          @problems << "bundle.json is not the description of a package."
          {}
        rescue JSON::ParserError
          @problems << "bundle.json is not JSON."
          {}
        end

        def shaped?(found)
          found.is_a?(Hash) && found.fetch("format", Bundle::FORMAT) == Bundle::FORMAT &&
            Bundle::WORDS.all? { found.fetch(_1.to_s, "").is_a?(String) } &&
            %w[presets sets tags].all? { |key| list?(found.fetch(key, [])) { _1.is_a?(Hash) } } &&
            found.fetch("presets", []).all? { _1["id"].is_a?(String) && _1.fetch("edition", 1).is_a?(Integer) && _1.fetch("edition", 1).between?(1, 1_000_000) } &&
            found.fetch("sets", []).all? { |set| text?(set["name"]) && list?(set.fetch("presets", [])) { _1.is_a?(String) } } &&
            found.fetch("tags", []).all? { text?(_1["name"]) }
        end

        def list?(value, &) = value.is_a?(Array) && value.size <= 20_000 && value.all?(&)

        def text?(value) = value.is_a?(String) && value.strip.length.between?(1, 200)

        def preset(path, json)
          read = Preset::Preset.parse(json, name: path)
          @problems << "#{path} holds the preset #{read.id}." unless path == "presets/#{read.id}.json"
          [read.id, read]
        rescue Preset::Preset::Invalid => e
          @problems << e.message
          nil
        end

        def items(description, presets)
          listed = description.fetch("presets", [])
          listed.each { @problems << "The preset #{_1["id"]} is listed but missing." unless presets.key?(_1["id"]) }
          listed.each do |entry|
            preset = presets[entry["id"]] or next
            @problems << "“#{preset.name}” is not the preset that was packed." if entry["fingerprint"] && entry["fingerprint"] != preset.fingerprint
          end
          editions = listed.to_h { [_1["id"], _1.fetch("edition", 1)] }
          order = editions.keys | presets.each_value.sort_by { _1.name.downcase }.map(&:id)
          order.filter_map { |id| presets[id] && Bundle::Item.new(preset: presets[id], edition: editions.fetch(id, 1)) }
        end

        def assets(payload, presets)
          lying = payload.filter_map { |path, bytes| (m = path.match(%r{\Aassets/(\h{64})\.([a-z0-9]{1,5})\z})) && [m[1], Bundle::Asset.new(bytes:, ext: m[2])] }.to_h
          presets.flat_map { |preset| preset.needs.map { [_1, preset] } }.each_with_object({}) do |(need, preset), kept|
            asset = lying[need.delete_prefix("sha256:")]
            if asset.nil? then @problems << Preset::MissingNeed.new(preset, need).message
            elsif Digest::SHA256.hexdigest(asset.bytes) != need.delete_prefix("sha256:") then @problems << "The picture #{need[0, 19]}… is not what its name says."
            elsif !kept.key?(need) && picture?(asset, need) then kept[need] = asset
            end
          end
        end

        def picture?(asset, need)
          name = "The picture #{need[0, 19]}…"
          (asset.ext == "svg") ? Tip::Vector.cover(asset.bytes, 64, name:) : Tip::Picture.read(asset.bytes, name:)
        rescue Tip::Picture::Unreadable => e
          @problems << e.message
          false
        end

        # Only a strip that is a picture of a preset at hand is kept; it can be painted anew.
        def strips(payload, presets)
          presets.keys.filter_map { |id| (png = payload["strips/#{id}.png"]) && Tip::Picture.kind(png) == "png" && [id, png] }.to_h
        end

        def words(description) = Bundle::WORDS.to_h { [_1, description.fetch(_1.to_s, (_1 == :version) ? "1.0.0" : "")] }

        def sets(description) = description.fetch("sets", []).map { Bundle::Group.new(name: _1["name"].strip, presets: _1.fetch("presets", []).uniq) }

        def tags(description) = description.fetch("tags", []).map { Bundle::Tag.new(name: _1["name"].strip, colour: _1["colour"], shape: _1["shape"]) }
      end
    end
  end
end
