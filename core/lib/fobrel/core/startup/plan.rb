# frozen_string_literal: true

module Fobrel
  module Core
    module Startup
      # A start-up plan as it is sent: every file of the folder with its sum, in words that people and programs read.
      #
      #   plan = Plan.build(entries, assets:, desk: {"id" => 3, "name" => "Line desk 1"}, number: 7, …)
      #   plan.to_h                   # what start.json says
      #   plan.contents["READ ME.txt"] # bytes of what it makes itself; parts are fetched by their sum
      class Plan
        FORMAT = "fobrel.start/2"
        LISTING = "start.json"
        WORDS = "READ ME.txt"
        # The most that a plan may say of itself: an agent reads no more of what calls itself a plan.
        LARGEST = 20_000_000
        BRUSHES = 5_000
        FILES = 20_000

        # One brush of it. `version` is told, not judged by.
        Entry = Struct.new(:preset, :part, :section, :key, :version, :replaces, keyword_init: true)

        # @return [Hash] what start.json says
        attr_reader :to_h
        # @return [Hash{String => String}] path to bytes of the brushes and the words
        attr_reader :contents

        # @param entries [Array<Entry>] each brush once; startup in the order of loading, then the shelf
        # @param assets [#fetch] from "sha256:…" to what has #ext and #bytesize
        # @param desk [Hash] "id" and "name"
        # @param number [Integer] which plan of this desk it is
        # @param at [Time]
        # @param by [String]
        # @param why [String]
        # @raise [Preset::MissingNeed]
        def self.build(entries, assets:, desk:, number:, at:, by:, why: "")
          new(entries, assets).build(desk:, number:, at: at.utc.iso8601, by:, why:)
        end

        # The plan of going back to what was there before Fobrel: nothing of a plan.
        #
        # @param plan [Hash, nil] the one that is left
        # @return [Hash]
        def self.before(plan, **about)
          words = "As it was before Fobrel"
          {
            "format" => FORMAT,
            "desk" => plan&.fetch("desk"),
            "plan" => plan&.fetch("plan"),
            "by" => plan&.fetch("by"),
            "made_at" => plan&.fetch("made_at"),
            "why" => words,
            "before" => true,
            **Layers::PARTS.to_h { [_1, []] },
            "files" => {},
            **about.transform_keys(&:to_s)
          }
        end

        # @param hash [Object] what somebody sent or wrote as a plan
        # @return [Hash] the same
        # @raise [Problem] where it is none, or would lead out of the folder
        def self.check(hash) = PlanCheck.check(hash)

        # Which plan it is. Its number alone does not say so: a server that was set up anew, or went back to a backup,
        # counts the same numbers again.
        #
        # @param hash [Hash, nil] as start.json has it
        # @return [String, nil]
        def self.mark(hash) = hash && "#{hash["plan"]} of #{hash["made_at"]}"

        def initialize(entries, assets)
          @entries = entries
          @assets = assets
          @contents = {}
        end

        # @return [Plan]
        def build(**about)
          names = file_names
          lists = Layers::PARTS.to_h { |part| [part, list(part, names)] }
          parts = needed
          words = words(about, lists)
          @contents[WORDS] = words
          files = @contents.transform_values { {"sum" => Sum.of(_1), "bytes" => _1.bytesize} }.merge(parts)
          @to_h = {
            "format" => FORMAT,
            "desk" => about[:desk],
            "plan" => about[:number],
            "made_at" => about[:at],
            "by" => about[:by],
            "why" => about[:why],
            **lists,
            "files" => files.sort.to_h
          }
          @contents.freeze
          freeze
        end

        private

        def list(part, names)
          @entries.select { _1.part == part }.map do |entry|
            path = "#{part}/#{names.fetch(entry)}"
            # Under a stock brush's name it is that name which the painting program shows.
            preset = entry.preset
            preset = Preset::Preset.restore(preset.to_h.merge("name" => entry.replaces)) if entry.replaces
            @contents[path] = "#{JSON.pretty_generate(preset.to_h)}\n"
            {
              "id" => preset.id,
              "name" => preset.name,
              "file" => path,
              "fingerprint" => preset.fingerprint,
              "version" => entry.version,
              "section" => entry.section,
              "key" => entry.key,
              "replaces" => entry.replaces,
              "needs" => preset.needs
            }.compact
          end
        end

        # "01 Harbour fog.json": in order, no two the same however a system writes them.
        def file_names
          Layers::PARTS.flat_map { |part|
            entries = @entries.select { _1.part == part }
            digits = [entries.size.to_s.size, 2].max
            plain = Package::FileName.each_once(entries.map { _1.replaces || _1.preset.name })
            entries.each_with_index.map { |entry, index|
              [entry, "#{(index + 1).to_s.rjust(digits, "0")} #{plain[index]}.json"]
            }
          }.to_h
        end

        def needed
          @entries.map(&:preset).flat_map { |preset| preset.needs.map { [_1, preset] } }.uniq(&:first)
            .to_h { |need, preset|
              asset = @assets.fetch(need) { raise Preset::MissingNeed.new(preset, need) }
              sum = Sum.in(need)
              ["parts/#{sum}.#{asset.ext}", {"sum" => sum, "bytes" => asset.bytesize}]
            }
        end

        # Names in it are one line each: none may pass for a line of ours.
        def words(about, lists)
          desk, by, why = [about[:desk]["name"], about[:by], about[:why].to_s].map { |text| Names.clean(text) }
          <<~TEXT
            #{desk}, start-up plan #{about[:number]}
            Sent by #{by}, #{about[:at]}#{": #{why}" if why != ""}

            startup   #{lists["startup"].size} brushes, loaded at every start, in the order of their numbers
            shelf     #{lists["shelf"].size} brushes at hand, loaded when asked for
            parts     the tips and grains they need, each named by its SHA-256
            originals stock brushes whose place another brush has taken
            aside     what was altered here and then replaced by a newer plan: nothing of it is lost
            start.json says the same for programs.

            Files of your own may lie here and in these folders: they are carried along and never touched.
            Before its first change here, Fobrel kept a copy of everything in .fobrel/before.
            #{keys(lists["startup"])}
          TEXT
        end

        def keys(list)
          found = list.select { _1["key"] }.map { "  #{Names.clean(_1["key"]).ljust(8)} #{Names.clean(_1["name"])}" }
          found.empty? ? "" : "\nKeys\n#{found.join("\n")}"
        end
      end
    end
  end
end
