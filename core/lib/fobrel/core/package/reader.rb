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
            more = " (and #{problems.size - 5} more)" if problems.size > 5
            said = "#{problems.first(5).join(" ")}#{more}"
            super("#{name} cannot be used: #{said} Nothing was kept. Ask for a new copy from its maker.")
          end
        end

        # Versions are numbered by our own saving from what came in; far below what a column holds.
        MOST_VERSION = 1_000_000_000

        # What is wrong with one preset of a package that is sound as a whole: "unreadable",
        # "lacking" (a need is missing) or "future" (of a later version), a sentence, and its
        # settings where they could be read.
        Trouble = Struct.new(:name, :kind, :sentence, :document)

        # A package taken apart: the words about it, Bundle::Item list in order, pictures by
        # reference, sets, tags, export templates, strips by preset id, what else a Backup has (or nil), and
        # Trouble for what cannot be used.
        Reading = Struct.new(
          :words,
          :items,
          :assets,
          :sets,
          :tags,
          :export_templates,
          :strips,
          :backup,
          :troubles,
          keyword_init: true
        )

        # @param bytes [String] a `.fobrel.zip` file
        # @param name [String] what to call it in a message
        # @return [Bundle]
        # @raise [Archive::Refused, Invalid] when anything at all is wrong
        def self.read(bytes, name: "The package")
          Archive.open(StringIO.new(bytes.b), name:) { |files| new(name).bundle(new(name).unbagged(files)) }
        end

        # Takes an opened package apart, keeping what is sound of it: one bad preset does not
        # spoil the rest, one wrong checksum does.
        #
        # @param files [Archive]
        # @param sound [#include?] references of pictures that were looked into before: their sums are held against
        #   their bytes, no more
        # @yieldparam reference [String] of a picture, once each, and of a backup's release
        # @yieldparam asset [Bundle::Asset] a release's has the ending "zip"
        # @yieldreturn what stands for the picture in Reading#assets
        # @return [Reading]
        # @raise [Archive::Refused, Invalid]
        def self.survey(files, name: "The package", sound: [], &keep)
          reader = new(name, sound:)
          reader.survey(reader.unbagged(files), strips: false, &keep)
        end

        # Reads the files below data/, from a folder or an opened package.
        #
        # @param payload [#keys, #[]]
        # @return [Bundle]
        # @raise [Invalid]
        def self.read_payload(payload, name: "The folder") = new(name).bundle(payload)

        # Whether an opened ZIP claims to be a package.
        def self.package?(files) = files.keys.any? { _1.match?(%r{\A([^/]+/)?bagit\.txt\z}) }

        def initialize(name, sound: [])
          @name = name
          @sound = sound
          @problems = []
        end

        # @return [#keys, #[]] the files below data/, each held against its sum as it is read
        def unbagged(files)
          bag = Bag.new(files, @name)
          bag.check.each { @problems << _1 }
          stop if @problems.any?
          bag
        end

        def bundle(payload)
          reading = survey(payload)
          @problems.concat(reading.troubles.map(&:sentence))
          stop if @problems.any?
          Bundle.new(
            **reading.words,
            **reading.to_h.slice(:items, :assets, :strips, :sets, :tags, :export_templates, :backup)
          )
        rescue Bundle::Invalid => e
          @problems << e.message
          stop
        end

        def survey(payload, strips: true, &keep)
          @troubles = []
          @aside = ->(name, sentence) { trouble(name, "aside", sentence) }
          description = description(payload)
          presets = payload.keys.filter_map { |path|
            preset(path, payload[path]) if path.match?(%r{\Apresets/[^/]+\.json\z})
          }.to_h
          listed(description, presets)
          stop if @problems.any?
          backup = backup(payload, items(description, presets))
          assets = assets(payload, presets, backup ? backup.presets : [], &keep)
          items = items(description, presets)
          if backup
            backup = backup.whole(assets, &@aside).with_releases { |release, called|
              release(payload, release["sha256"], called, &keep)
            }
          end
          strips = strips(payload, presets, strips)
          stop if @problems.any?
          Reading.new(
            words: words(description),
            items:,
            assets:,
            strips:,
            backup:,
            sets: sets(description, items),
            tags: tags(description),
            export_templates: export_templates(description),
            troubles: @troubles
          )
        end

        private

        def stop = raise(Invalid.new(@name, @problems))

        def description(payload)
          json = payload["bundle.json"] or return {}
          found = JSON.parse(json.dup.force_encoding("UTF-8").scrub, max_nesting: 12)
          return usual(found) if shaped?(found)
          @problems << "bundle.json is not the description of a package."
          {}
        rescue JSON::ParserError
          @problems << "bundle.json is not JSON."
          {}
        end

        def backup(payload, items)
          found = Backup.read(payload, aside: @aside) { @problems << _1 }
          stop if @problems.any?
          found&.of(items, &@aside)
        end

        # A release is handed on only as what it says it is: a package, whole and sound.
        def release(payload, sum, called)
          bytes = payload["releases/#{sum}.fobrel.zip"] or return @aside.call(
            called,
            "The release #{called} is not in this backup; it is left out."
          )
          unless bytes.start_with?("PK".b) && Sum.of(bytes) == sum
            raise Problem,
              "It is another file than the one that was released."
          end
          inner = Archive.open(StringIO.new(bytes), name: called) { |files|
            Reader.survey(files, name: called) {
              true
            }
          }
          raise Problem, "It is not a release." if inner.backup || inner.troubles.any?
          asset = Bundle::Asset.new(bytes:, ext: "zip")
          block_given? ? yield(Sum.reference(sum), asset) : asset
        rescue Problem => e
          @aside.call(called, "The release #{called} is left out. #{e.message}")
        end

        def shaped?(found)
          found.is_a?(Hash) && found.fetch("format", Bundle::FORMAT) == Bundle::FORMAT &&
            Bundle::WORDS.all? { found.fetch(_1.to_s, "").is_a?(String) } &&
            %w[presets sets tags export_templates].all? { |key| list?(found.fetch(key, [])) { _1.is_a?(Hash) } } &&
            found.fetch("presets", []).all? {
              _1["id"].is_a?(String) && _1.fetch(
                "version",
                1
              ).is_a?(Integer) && _1.fetch("version", 1).between?(1, MOST_VERSION)
            }
        end

        # Without the sets and tags that nobody could make here; the rest is not held up by them.
        def usual(found)
          sets = found.fetch("sets", []).select { |set| set?(set) || odd("set", set) }
          tags = found.fetch("tags", []).select { |tag| tag?(tag) || odd("tag", tag) }
          found.merge("sets" => sets, "tags" => tags)
        end

        def odd(kind, entry)
          name = entry["name"].to_s.strip[0, 80]
          @aside&.call(name, "The #{kind} “#{name}” is left out: it is not written as a #{kind} can be.")
          false
        end

        def set?(set)
          text?(set["name"]) && list?(set.fetch("presets", [])) {
            _1.is_a?(String)
          } && headings?(set["sections"]) && (set["query"].nil? || text?(set["query"], Curation::Query::LONGEST))
        end

        def tag?(tag) = text?(tag["name"]) && (tag["synonyms"].nil? || list?(tag["synonyms"]) { text?(_1) })

        def list?(value, &) = value.is_a?(Array) && value.size <= 20_000 && value.all?(&)

        def headings?(value)
          value.nil? || (value.is_a?(Hash) && value.each_value.all? { text?(_1) && _1.length <= 60 })
        end

        def text?(value, most = 200) = value.is_a?(String) && value.strip.length.between?(1, most)

        def preset(path, json)
          read = Preset::Preset.parse(json, name: path)
          @problems << "#{path} holds the preset #{read.id}." unless path == "presets/#{read.id}.json"
          [read.id, read]
        rescue Preset::Preset::Later => e
          trouble(e.document["name"].to_s, "future", e.message, e.document)
        rescue Preset::Preset::Invalid => e
          trouble(File.basename(path), "unreadable", e.message)
        end

        def trouble(*what) = @troubles.push(Trouble.new(*what)) && nil

        # What bundle.json says must be there, unless it was found and cannot be used.
        def listed(description, presets)
          unread = @troubles.size
          description.fetch("presets", []).each do |entry|
            preset = presets[entry["id"]]
            if preset.nil?
              @problems << "The preset #{entry["id"]} is listed but missing." if (unread -= 1) < 0
            elsif entry["fingerprint"] && preset.fingerprint != entry["fingerprint"]
              @problems << "“#{preset.name}” is not the preset that was packed."
            end
          end
        end

        def items(description, presets)
          versions = description.fetch("presets", []).to_h { [_1["id"], _1.fetch("version", 1)] }
          order = versions.keys | presets.each_value.sort_by { _1.name.downcase }.map(&:id)
          order.filter_map { |id| presets[id] && Bundle::Item.new(preset: presets[id], version: versions.fetch(id, 1)) }
        end

        # Takes presets out of the list whose pictures are missing or cannot be used.
        def assets(payload, presets, more)
          lying = payload.keys.filter_map { |path|
            (m = path.match(%r{\Aassets/(\h{64})\.((?!zip)[a-z0-9]{1,5})\z})) && [Sum.reference(m[1]), [path, m[2]]]
          }.to_h
          needed = [*presets.each_value, *more].flat_map(&:needs).uniq
          kept = needed.filter_map do |need|
            path, ext = lying[need]
            asset = path && sound(
              Bundle::Asset.new(bytes: payload[path], ext:),
              need,
              (payload.sum(path) if payload.is_a?(Bag))
            )
            [need, block_given? ? yield(need, asset) : asset] if asset
          end.to_h
          presets.transform_values! { |preset| preset.with_preview_of(kept) }
          presets.delete_if { |_, preset| lacking(preset, kept) }
          kept
        end

        def lacking(preset, kept)
          missing = Preset::MissingNeed.of(preset, kept) or return
          sentence = @unsound&.fetch(missing.need, nil) || missing.message
          trouble(preset.name, "lacking", sentence, preset.to_h)
          true
        end

        # @param sum [String, nil] that its bytes were held against already
        def sound(asset, need, sum)
          name = "The picture #{need[0, 19]}…"
          if (sum || Sum.of(asset.bytes)) != Sum.in(need)
            @problems << "#{name} is not what its name says."
            return
          end
          return asset if @sound.include?(need)
          (asset.ext == "svg") ? Tip::Outside.check_shape(asset.bytes, name:) : Tip::Outside.check(asset.bytes, name:)
          asset
        rescue Tip::Picture::Unreadable => e
          (@unsound ||= {})[need] = e.message
          nil
        end

        # Only a strip that is a picture of a preset at hand is kept; it can be painted anew.
        def strips(payload, presets, wanted)
          payload.keys.filter_map do |path|
            id = path[%r{\Astrips/(.+)\.png\z}, 1]
            # What nobody reads must still be what was packed.
            next payload.is_a?(Bag) && !payload.held?(path) && payload[path] && nil unless id
            png = payload[path]
            [id, png] if wanted && presets.key?(id) && Tip::Picture.kind(png) == "png"
          end.to_h
        end

        def words(description)
          Bundle::WORDS.to_h { [_1, description.fetch(_1.to_s, (_1 == :version) ? "1.0.0" : "")] }
        end

        def sets(description, items)
          listed = description.fetch("presets", []).map { _1["id"] }
          left_out = listed - items.map { _1.preset.id }
          description.fetch("sets", []).map {
            Bundle::Group.new(
              name: _1["name"].strip,
              presets: _1.fetch("presets", []).uniq - left_out,
              sections: _1["sections"]&.except(*left_out),
              query: _1["query"]
            )
          }
        end

        # An export template is text that is run only when somebody asks for it, so a bad one spoils nothing.
        def export_templates(description)
          description.fetch("export_templates", []).first(100).filter_map do |one|
            ExportTemplate[one]
          rescue ExportTemplate::Invalid => e
            trouble(one["name"].to_s[0, 200], "unreadable", e.message)
          end
        end

        def tags(description)
          description.fetch("tags", []).map {
            Bundle::Tag.new(name: _1["name"].strip, colour: _1["colour"], shape: _1["shape"], synonyms: _1["synonyms"])
          }
        end
      end
    end
  end
end
