# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # What one delivery brings, whatever kind of file it is: presets with their pictures, and a
      # sentence for each thing that cannot be used. One bad file leaves the rest usable.
      #
      #   found = Delivery.read([Delivery::File.new("kit.fobrel.zip", io)])
      #   found.items.map { _1.preset.name }
      class Delivery
        # A file as it came: its name or path, and where it can be read (binary, movable).
        File = Struct.new(:name, :io)

        # One thing in it. `way` is set where pictures can be taken in more than one way: as one
        # "reel", or "each" as a tip of its own; `group` then tells which pictures those are, and
        # `usual` which way is taken unless somebody says otherwise.
        # `kind` is "preset", or why there is none: "unreadable", "lacking" a need, of a "future"
        # version, or put "aside". A lacking one has its preset, for the library may have the need.
        # What comes from a backup has a `past`: its "facts" and "versions" (see Backup).
        Item = Struct.new(
          :kind,
          :name,
          :preset,
          :version,
          :source,
          :sentence,
          :document,
          :group,
          :way,
          :usual,
          :past,
          keyword_init: true
        )

        # Everything that is read, for those who brought something else.
        READ = "packages, presets (JSON), tables of settings (CSV), pictures (PNG, JPEG, WebP, TIFF, GIF; several in " \
          "one file become a reel), layered drawings (OpenRaster), shapes (SVG), and ZIP files or folders of these"

        # A file of text larger than this is no preset, shape or table.
        MAX_TEXT = 16 * 1024 * 1024

        # @return [Array<Item>]
        attr_reader :items
        # @return [Hash{Symbol => String}] Bundle::WORDS, of the first package in it
        attr_reader :words
        # @return [Array<Bundle::Group>, Array<Bundle::Tag>, Array<ExportTemplate>]
        attr_reader :sets, :tags, :export_templates
        # @return [Hash, nil] Backup#library of the first backup in it, but what it says of brushes
        attr_reader :library
        # @return [Hash{String => Bundle::Asset}] pictures by reference, or what the block made of them
        attr_reader :assets

        # @param files [Array<File>]
        # @yieldparam reference [String] of a picture, once each
        # @yieldparam asset [Bundle::Asset]
        # @yieldreturn what stands for it in #assets; without a block, the picture itself
        # @return [Delivery]
        def self.read(files, &keep) = new(keep).tap { |delivery| delivery.take(files) }

        # @api private
        def initialize(keep)
          @keep = keep || ->(_, asset) { asset }
          @items = []
          @sets = []
          @tags = []
          @export_templates = []
          @assets = {}
          @packed = {}
          @words = {}
        end

        # @api private
        def take(files)
          packed, loose = files.partition { |file| file.io.size >= 4 && head(file.io, 4).start_with?("PK".b) }
          packed.each { |file| guard(file.name) { unpack(file) } }
          scatter(loose.map(&:name), common(loose)) { |name| whole(loose.find { _1.name == name }) }
          self
        end

        private

        # The folder that they all came in.
        def common(files)
          folders = files.map { _1.name[%r{\A([^/]+)/}, 1] }.uniq
          (folders.size == 1 && folders.first) || "these files"
        end

        def head(io, length) = io.tap(&:rewind).read(length).to_s.b

        # What went wrong with a file becomes a line of the delivery.
        #
        # @return what the block gives; nil when it went wrong
        def guard(name)
          yield
        rescue Preset::Preset::Later => e
          items << Item.new(
            kind: "future",
            name: e.document["name"].to_s[0, 200],
            source: name,
            sentence: e.message,
            document: e.document
          )
          nil
        rescue Problem => e
          items << Item.new(kind: "unreadable", name: ::File.basename(name), source: name, sentence: e.message)
          nil
        end

        def whole(file)
          if file.io.size > Tip::Picture::MAX_BYTES
            raise Tip::Picture::Unreadable,
              "#{file.name} is larger than #{Tip::Picture::MAX_BYTES / 1024 / 1024} MB. Nothing was kept. Save it " \
                "smaller."
          end
          file.io.rewind
          file.io.read.to_s.b
        end

        def unpack(file)
          Archive.open(file.io, name: file.name) do |files|
            if Reader.package?(files) then package(files, file.name)
            elsif Tip::Layers.drawing?(files) then layers(Tip::Layers.frames(files, name: file.name), file.name)
            else scatter(files.keys.reject { _1.match?(%r{(\A|/)(\.|__MACOSX/)}) }, file.name) { files[_1] }
            end
          end
        end

        def package(files, name)
          reading = Reader.survey(files, name:) { |reference, asset| keep(reference, asset) }
          items.concat(
            reading.items.map {
              Item.new(
                kind: "preset",
                name: _1.preset.name,
                preset: _1.preset,
                version: _1.version,
                source: name,
                past: past(reading.backup, _1.preset.id)
              )
            }
          )
          reading.troubles.each { |one|
            items << Item.new(
              kind: one.kind,
              name: one.name,
              source: name,
              sentence: one.sentence,
              document: one.document,
              preset: (one.kind == "lacking") ? Preset::Preset.restore(one.document) : nil,
              version: 1
            )
          }
          sets.concat(reading.sets)
          tags.concat(reading.tags)
          export_templates.concat(reading.export_templates)
          @words = reading.words if @words.empty?
          @library ||= reading.backup&.library&.except("brushes")
        end

        def past(backup, id)
          backup && {"facts" => backup.library["brushes"].fetch(id, {}), "versions" => backup.histories.fetch(id, [])}
        end

        # A backup's releases are no pictures that a brush could ask for.
        def keep(reference, asset)
          ((asset.ext == "zip") ? @packed : assets)[reference] ||= @keep.call(reference, asset)
        end

        # Files lying side by side: presets and tables take the pictures that they need; where
        # there are none, each picture is a tip.
        def scatter(names, group, &bytes)
          texts, pictures = names.partition { _1.match?(/\.(json|csv|tsv|txt)\z/i) }
          found = texts.flat_map { |name| guard(name) { settings(name, bytes[name]) } || [] }
          needed = found.flat_map { _1.preset.needs }.to_set
          left = pictures.reject { |name| part?(name, needed, &bytes) }
          found.each { |item| items << lacking(item) }
          return if left.empty?
          found.any? ? aside(left, group) : tips(left, group, &bytes)
        end

        def part?(name, needed)
          return if needed.empty?
          bytes = yield(name)
          reference = Sum.reference_to(bytes)
          return unless needed.include?(reference)
          keep(reference, picture(bytes, name))
          true
        rescue Problem
          nil
        end

        def aside(names, group)
          some = names.first(3).map { ::File.basename(_1) }.join(", ")
          items << Item.new(
            kind: "aside",
            name: "#{names.size} other #{(names.size == 1) ? "file" : "files"}",
            source: group,
            sentence: "#{some}#{" …" if names.size > 3}: no preset here needs this. It was left aside. To make tips " \
              "of pictures, bring them by themselves."
          )
        end

        # A picture that a preset names by its sum: checked, and kept as it is, with the ending that
        # belongs to what it is.
        def picture(bytes, name)
          Bundle::Asset.new(
            bytes:,
            ext: shape?(bytes) ? Tip::Outside.check_shape(bytes, name:) : Tip::Outside.check(bytes, name:)
          )
        end

        def shape?(bytes) = bytes.b.match?(/<svg[\s>]/n)

        # @return [Array<Item>]
        def settings(name, bytes)
          if bytes.bytesize > MAX_TEXT
            raise Problem,
              "#{name} is larger than #{MAX_TEXT / 1024 / 1024} MB. Nothing was kept."
          end
          return table(name, bytes) unless name.match?(/\.json\z/i)
          return listed(name, bytes) if bytes.lstrip.start_with?("[")
          [preset_item(Preset::Preset.parse(bytes, name:), name)]
        end

        # Several presets in one list, as a kit has them.
        def listed(name, bytes)
          documents = JSON.parse(
            bytes.dup.force_encoding(Encoding::UTF_8).scrub,
            max_nesting: Preset::Preset::MAX_DEPTH + 1
          )
          documents.first(Table::MOST).filter_map.with_index { |document, index|
            guard("#{name}, #{index + 1}") {
              preset_item(Preset::Preset.parse(JSON.generate(document), name: "#{name}, #{index + 1}"), name)
            }
          }
        rescue JSON::ParserError
          raise Problem,
            "#{name} is not JSON, or nested more than #{Preset::Preset::MAX_DEPTH} deep. Nothing was kept. Export it " \
              "again."
        end

        def table(name, bytes)
          Table.read(bytes, name:).each_with_index.filter_map do |document, index|
            guard("#{name}, row #{index + 2}") { preset_item(Table.preset(document), name) }
          end
        end

        def preset_item(preset, source) = Item.new(kind: "preset", name: preset.name, preset:, version: 1, source:)

        def lacking(item)
          item.preset = item.preset.with_preview_of(assets)
          missing = Preset::MissingNeed.of(item.preset, assets) or return item
          item.kind = "lacking"
          item.sentence = missing.message
          item
        end

        # Single pictures, each a tip; several together can be one reel.
        def tips(names, group)
          made = names.filter_map { |name| guard(name) { tip(name, yield(name)) } }
          singles = made.select { _1.first == :single }
          together = singles.size.between?(2, Tip::Picture::MAX_FRAMES)
          singles.each { |_, name, tip|
            items << made_item(plain(name), tip, name, together ? {group:, way: "each", usual: "each"} : {})
          }
          if together && singles.all? { |_, _, tip|
            tip["frames"]
          } && singles.map { |_, _, tip|
                 tip["colours"]
               }.uniq.size == 1
            items << made_item(
              plain(group),
              singles.first.last.merge(
                "frames" => singles.flat_map { |_, _, tip|
                  tip["frames"] || []
                }
              ),
              group,
              {group:, way: "reel", usual: "each"}
            )
          end
        end

        # @return [Array] :single with its name and tip, or :several where it went into items already
        def tip(name, bytes)
          if bytes.start_with?("PK\x03\x04".b)
            raise Problem,
              "#{name} is an archive in an archive. It was left out. Unpack it first."
          end
          if shape?(bytes)
            return [
              :single,
              name,
              {"kind" => "shape", "asset" => kept(Tip::Outside.shape(bytes, name:), "svg")}
            ]
          end
          unless bytes.empty? || Tip::Picture.kind(bytes)
            raise Problem,
              "#{name} is of a kind that is not read. Nothing was kept of it. What is read: #{READ}."
          end
          marks = Tip::Outside.marks(bytes, name:)
          if marks.found.size == 1
            return [
              :single,
              name,
              {
                "kind" => "picture",
                "frames" => [mark(marks.found.first)]
              }.merge(marks.own ? OWN : {})
            ]
          end
          reel(marks.found, name, "frame", own: marks.own)
          [:several]
        end

        # Layers, each a picture of its own: they keep their colours if any of them does.
        def layers(frames, source)
          marks = frames.map { Tip::Outside.marks(_1, name: source) }
          own = marks.any?(&:own)
          marks = frames.map { Tip::Outside.marks(_1, name: source, own:) } unless marks.map(&:own).uniq.size == 1
          reel(marks.flat_map(&:found), source, "layer", own:)
        end

        # Several pictures of one file: one reel, or a tip each.
        def reel(found, source, word, own:)
          marks = found.each_with_index.filter_map do |one, index|
            label = "#{source}, #{word} #{index + 1}"
            guard(label) { [label, mark(one)] }
          end
          return if marks.empty?
          colours = own ? OWN : {}
          way = (marks.size > 1) ? ->(name) { {group: source, way: name, usual: "reel"} } : ->(_) { {} }
          items << made_item(
            plain(source),
            {"kind" => "picture", "frames" => marks.map(&:last)}.merge(colours),
            source,
            way["reel"]
          )
          if marks.size > 1
            marks.each_with_index { |(_, frame), index|
              items << made_item(
                "#{plain(source)} #{index + 1}",
                {"kind" => "picture", "frames" => [frame]}.merge(colours),
                source,
                way["each"]
              )
            }
          end
        end

        OWN = {"colours" => "own"}.freeze
        private_constant :OWN

        # @param found [Array] as Outside::Marks has them
        # @return [String] the picture's reference
        def mark((kind, said))
          raise Problem, said if kind == :trouble
          kept(said, "png")
        end

        def kept(bytes, ext)
          Sum.reference_to(bytes).tap { keep(_1, Bundle::Asset.new(bytes:, ext:)) }
        end

        def made_item(name, tip, source, way)
          preset_item(Preset::FromTip.build(name, tip), source).tap { |item|
            way.each { |key, value|
              item[key] = value
            }
          }
        end

        # A file's name as a brush's.
        def plain(name)
          ::File.basename(name, ".*").unicode_normalize(:nfc).tr("_", " ").squeeze(" ").strip[0, 150].then {
            _1.empty? ? "Brush" : _1
          }
        end
      end
    end
  end
end
