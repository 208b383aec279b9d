# frozen_string_literal: true

module Fobrel
  module Core
    module Package
      # What a package holds, as a value: the presets in order with their versions, the pictures
      # they need, sets, tags, strips, and the words about it all.
      #
      #   bundle = Bundle.build(name: "Harbour", presets: [Bundle::Item.new(preset:, version: 2)], assets:)
      #   bytes = Writer.zip(bundle)
      #   Reader.read(bytes).presets.map(&:fingerprint)
      class Bundle
        # Raised with one sentence when a bundle's own description cannot be used.
        class Invalid < Problem; end

        FORMAT = "fobrel.bundle/1"
        VERSION = /\A(0|[1-9]\d*)\.(0|[1-9]\d*)\.(0|[1-9]\d*)(-[0-9A-Za-z.-]+)?(\+[0-9A-Za-z.-]+)?\z/

        # One preset and the number of its version.
        Item = Struct.new(:preset, :version, keyword_init: true)
        # A picture: its bytes and its file ending.
        Asset = Struct.new(:bytes, :ext, keyword_init: true) do
          def bytesize = bytes.bytesize
        end
        # A set: its name, and the ids of its presets in order, with the heading of those that stand
        # under one; or the search that fills it.
        Group = Struct.new(:name, :presets, :sections, :query, keyword_init: true)
        # A tag: its name, colour, shape, and what else it is called.
        Tag = Struct.new(:name, :colour, :shape, :synonyms, keyword_init: true)

        WORDS = %i[name version licence author description].freeze

        attr_reader(*WORDS, :items, :assets, :sets, :tags, :strips, :export_templates, :backup)

        # Takes from `assets` only what the presets need.
        #
        # @param items [Array<Item>] in order; each preset once
        # @param assets [#fetch] from "sha256:…" to Asset
        # @param strips [Hash{String => String}] PNG by preset id
        # @param export_templates [Array<ExportTemplate>]
        # @param backup [Backup, nil] what else a whole library has
        # @return [Bundle]
        # @raise [Preset::MissingNeed, Invalid]
        def self.build(
          items:, assets:, sets: [], tags: [], strips: {}, export_templates: [], backup: nil, name: "",
          version: "1.0.0", licence: "", author: "", description: ""
        )
          needed = (items.map(&:preset) + (backup ? backup.presets : [])).flat_map { |preset|
            preset.needs.map { |need|
              [need, preset]
            }
          }
            .to_h { |need, preset| [need, assets.fetch(need) { raise Preset::MissingNeed.new(preset, need) }] }
          new(
            items:,
            assets: needed,
            sets:,
            tags:,
            strips:,
            export_templates:,
            backup:,
            name:,
            version:,
            licence:,
            author:,
            description:
          )
        end

        def initialize(items:, assets:, sets:, tags:, strips:, export_templates: [], backup: nil, **words)
          @items = items.freeze
          @assets = assets.freeze
          @sets = sets.freeze
          @tags = tags.freeze
          @strips = strips.freeze
          @export_templates = export_templates.freeze
          @backup = backup
          WORDS.each { instance_variable_set("@#{_1}", words.fetch(_1)) }
          check
          freeze
        end

        # The same bundle with a strip of every preset; those it has are kept.
        #
        # @return [Bundle]
        # @raise [Stroke::Painter::CannotPaint] where one cannot be painted
        def with_strips
          parts = assets.transform_values(&:bytes)
          painted = presets.to_h { |preset| [preset.id, strips[preset.id] || Stroke::Strip.png(preset, assets: parts)] }
          Bundle.new(
            items:,
            assets:,
            sets:,
            tags:,
            export_templates:,
            backup:,
            strips: painted,
            **WORDS.to_h {
              [_1, public_send(_1)]
            }
          )
        end

        # @return [Array<Preset::Preset>] in order
        def presets = items.map(&:preset)

        # @return [Hash] `bundle.json`
        def description_file
          {
            "format" => FORMAT,
            "name" => name,
            "version" => version,
            "licence" => licence,
            "author" => author,
            "description" => description,
            "presets" => items.map {
              {"id" => _1.preset.id, "version" => _1.version, "fingerprint" => _1.preset.fingerprint}
            },
            "sets" => sets.map { written(_1) },
            "tags" => tags.map { written(_1) },
            **(export_templates.any? ? {"export_templates" => export_templates.map(&:to_h)} : {})
          }
        end

        private

        def written(value) = value.to_h.compact.transform_keys(&:to_s)

        def check
          raise Invalid, "The version #{version.inspect} is not written like 1.0.0." unless VERSION.match?(version)
          ids = presets.map(&:id)
          raise Invalid, "Two presets of this bundle have the same identity." if ids.uniq.size < ids.size
          stray = sets.flat_map(&:presets) - ids
          raise Invalid, "A set of this bundle names a preset that the bundle does not hold." if stray.any?
        end
      end
    end
  end
end
