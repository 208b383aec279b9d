# frozen_string_literal: true

module Fobrel
  module Core
    module Preset
      # A brush as a document: a value, compared by content, never changed. Reading a setting
      # gives its default where the document leaves it out; writing the document gives it back
      # as it came, with everything that this version does not know.
      #
      #   preset = Preset.parse(File.read("fog.json"))
      #   preset["tip", "size", "base"]   # => 40
      #   preset.with("name", "Fog 2").fingerprint == preset.fingerprint   # => true
      class Preset
        # Raised with all that is wrong with a document.
        class Invalid < Problem
          # @return [Array<String>] one sentence each
          attr_reader :problems

          def initialize(problems, name = "This preset")
            @problems = problems
            super(
              "#{name} cannot be used: " \
                "#{problems.first(5).join(" ")}#{" (and #{problems.size - 5} more)" if problems.size > 5}")
          end
        end

        # Raised for a preset that was written by a later version; its settings are handed on.
        class Later < Problem
          # @return [Hash]
          attr_reader :document

          def initialize(document)
            @document = document
            name = document["name"].to_s[0, 80]
            super(
              "“#{name}” was written by a later version (#{document["format"]}). It cannot be imported before this " \
                "one is brought up to date."
            )
          end
        end

        FORMAT = "fobrel.preset/1"
        MAX_BYTES = 1024 * 1024
        MAX_DEPTH = 24
        # What the fingerprint leaves out: it does not change the paint.
        WORDS = %w[id name about].freeze

        # @param document [Hash] with string keys
        # @return [Preset]
        # @raise [Invalid]
        def self.[](document)
          now = named(document)
          if beyond?(now)
            raise Invalid.new(
              ["It has a number beyond what programs can read (1.8 × 10^308, IEEE 754)."],
              called(document)
            )
          end
          problems = Schema.problems(now)
          raise Invalid.new(problems, called(document)) unless problems.empty?
          new(now)
        end

        # A number that no double holds has no canonical writing (RFC 8785, 3.2.2.3), known here or not.
        def self.beyond?(value)
          case value
          when Hash then value.each_value.any? { beyond?(_1) }
          when Array then value.any? { beyond?(_1) }
          when Integer then value.bit_length > 1024
          when Float then !value.finite?
          else false
          end
        end
        private_class_method :beyond?

        # The name is made one, so that no two that look the same stand side by side.
        def self.named(document)
          return document unless document.is_a?(Hash) && document["name"].is_a?(String)
          name = Names.clean(document["name"])
          (name == document["name"]) ? document : document.merge("name" => name)
        end
        private_class_method :named

        # A document that was checked before it was kept, and cannot have changed since.
        #
        # @return [Preset]
        def self.restore(document) = new(document)

        # @param json [String] UTF-8, at most MAX_BYTES, nested at most MAX_DEPTH deep
        # @return [Preset]
        # @raise [Invalid, Later]
        def self.parse(json, name: "This preset")
          raise Invalid.new(["It is larger than #{MAX_BYTES / 1024} KB."], name) if json.bytesize > MAX_BYTES
          text = json.dup.force_encoding(Encoding::UTF_8)
          raise Invalid.new(["It is not UTF-8 text."], name) unless text.valid_encoding?
          document = JSON.parse(text, max_nesting: MAX_DEPTH)
          later = document.is_a?(Hash) && document["format"].to_s.match?(%r{\Afobrel\.preset/(?!1\z)\d{1,4}\z})
          raise Later.new(document) if later
          self[document]
        rescue JSON::ParserError
          raise Invalid.new(["It is not JSON, or nested more than #{MAX_DEPTH} deep."], name)
        end

        # A new preset from the settings that matter; everything else at its default.
        #
        # @param name [String]
        # @param settings [Hash] such as {"tip" => {…}}; must hold a tip and a size
        # @param id [String] a UUID
        def self.build(name, settings, id: SecureRandom.uuid)
          self[Schema.fill(
            self[{
              "format" => FORMAT,
              "id" => id,
              "name" => name,
              "method" => "dabs"
            }.merge(settings)].to_h
          )]
        end

        def self.called(document)
          name = document["name"] if document.is_a?(Hash)
          name.is_a?(String) ? "“#{name[0, 80]}”" : "This preset"
        end
        private_class_method :called

        # @param document [Hash] that was checked
        def initialize(document)
          @document = document
          @settings = Schema.fill(document)
          freeze
        end

        # A setting, at its default where the document leaves it out.
        #
        # @param path [Array<String>] such as "tip", "size", "base"
        def [](*path) = @settings.dig(*path)

        # @return [Hash] the document as it came
        def to_h = @document

        def name = self["name"]

        def id = self["id"]

        # The preset with one of its top groups changed.
        #
        # @return [Preset]
        # @raise [Invalid]
        def with(group, value) = Preset[@document.merge(group => value)]

        # Whether every setting and word has the same value, written out or left at its default.
        #
        # @param other [Preset]
        def alike?(other) = Preset.restore(Schema.fill(@document)) == Preset.restore(Schema.fill(other.to_h))

        # RFC 8785.
        #
        # @return [String] the whole document in its one canonical writing
        def canonical = Canonical.json(@document)

        # Two presets with one fingerprint paint the same.
        #
        # @return [String] 64 hex digits: SHA-256 over the canonical form without id, name, about
        def fingerprint = self.class.fingerprint_of(@document)

        # @param document [Hash] as it stands, whatever its writing
        # @return [String]
        def self.fingerprint_of(document) = Sum.of(Canonical.json(document.except(*WORDS)))

        # @return [Array<String>] the frames of a picture tip, "sha256:…", in order
        def frames = self["tip", "form", "frames"] || []

        # @return [Array<String>] the tips and grains it paints with, "sha256:…", each once
        def parts = [*frames, self["tip", "form", "asset"], self["grain"]&.fetch("asset")].compact.uniq

        # @return [String, nil] the picture that stands for it beside its strip, "sha256:…"
        def preview = self["about", "picture"]

        # What travels with it: what it paints with, and its preview picture.
        #
        # @return [Array<String>] "sha256:…", each once
        def needs = [*parts, preview].compact.uniq

        # @param at_hand [#include?] references
        # @return [Preset] without its preview picture where that is not at hand: it paints all the same
        def with_preview_of(at_hand)
          return self if preview.nil? || at_hand.include?(preview)
          Preset.restore(@document.merge("about" => @document["about"].except("picture")))
        end

        # @return [Array<String>] paths of settings this version keeps but does not know
        def unknown = Schema.unknown(@document)

        def ==(other) = other.is_a?(Preset) && canonical == other.canonical
        alias_method :eql?, :==

        def hash = canonical.hash
      end
    end
  end
end
