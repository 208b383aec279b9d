# frozen_string_literal: true

require_relative "../demo/brushes"

module Fobrel
  # A generated library of many brushes, seeded: names of every kind, categories, tags, sets, and
  # near-copies of known brushes, so that what is found can be held against the truth.
  module Many
    WORDS = %w[
      Harbour
      Quay
      Kelp
      Slate
      Anchor
      Lantern
      Storm
      Gull
      Tide
      Rope
      Cobble
      Mist
      Barnacle
      Sail
      Hull
      Buoy
      Net
      Foam
      Ember
      Rust
      Wharf
      Pier
      Lichen
      Chalk
      Soot
    ].freeze
    KINDS = [
      "line",
      "fog",
      "wash",
      "hatch",
      "stamp",
      "grain",
      "edge",
      "spray",
      "tip 2",
      "tip 10",
      "ink",
      "glaze"
    ].freeze
    AUTHORS = ["Maren Oake", "Tove Lindgaard", "Ilse Brandow", "Åse Čapek", "帆 海"].freeze
    TAGS = %w[lineart weather rigging night sea stone texture stamp flat sky].freeze

    # @param library [Models::Library]
    # @param person [Models::Person]
    # @param count [Integer]
    # @param copies [Integer] how many of them are near-copies of another
    def self.fill(library, person, count:, copies: 0, seed: 7)
      chance = Random.new(seed)
      originals = Array.new(count - copies) { |i| settings(chance, i) }
      sources = (0...originals.size).to_a.sample(copies, random: chance)
      all = originals + sources.map { |i| near(originals[i], chance) }
      ids = insert(library, person, all)
      arrange(library, ids, chance)
    end

    # @return [Array<Array(Integer, Integer)>] the ids of each near-copy and what it copies
    def self.truth(library)
      ids = library.presets.pluck(:name, :id).to_h
      ids.filter_map { |name, id| name.end_with?(" copy") && [ids.fetch(name.delete_suffix(" copy")), id] }
    end

    class << self
      private

      def settings(chance, index)
        name = "#{"_" if (index % 97).zero?}#{WORDS.sample(random: chance)} #{KINDS.sample(random: chance)} #{index}"
        responses = [
          ["size", 0.1 + chance.rand * 0.5, 1.0],
          ["opacity", chance.rand * 0.6, 1.0],
          ["flow", chance.rand, 1.0],
          ["angle", 0, 360]
        ].sample(1 + chance.rand(3), random: chance)
        {
          "name" => name,
          "tip" => {
            "form" => {"kind" => "round", "hardness" => chance.rand.round(3)},
            "size" => {"base" => (4 + chance.rand**2 * 60).round(1)},
            "roundness" => (0.15 + chance.rand * 0.85).round(3),
            "angle" => chance.rand(180),
            "hard_pixels" => chance.rand(12).zero?
          },
          "stroke" => {
            "spacing" => (0.15 + chance.rand * 1.4).round(3),
            "scatter" => {"across" => (chance.rand(3).zero? ? chance.rand * 1.5 : 0).round(3)},
            "count" => 1 + chance.rand(2)
          },
          "response" => responses.map { |drives, from, to|
            {
              "drives" => drives,
              "by" => %w[pressure tilt direction random].sample(random: chance),
              "from" => from.round(3),
              "to" => to
            }
          },
          "paint" => {
            "opacity" => (0.4 + chance.rand * 0.6).round(3),
            "flow" => (0.2 + chance.rand * 0.8).round(3),
            "colour" => chance.rand(3).zero? ? {
              "mode" => "fixed",
              "value" => format("#%06x", chance.rand(0x888888))
            } : {"mode" => "artist"}
          },
          "about" => {
            "author" => AUTHORS.sample(random: chance),
            "licence" => chance.rand(5).zero? ? "" : "CC-BY-4.0",
            "notes" => chance.rand(4).zero? ? "" : "For the #{WORDS.sample(random: chance).downcase} scenes."
          }
        }
      end

      # The same brush, tuned by a hair and under another name.
      def near(original, chance)
        copy = Marshal.load(Marshal.dump(original))
        copy["name"] = "#{original["name"]} copy"
        copy["tip"]["form"]["hardness"] =
          (copy["tip"]["form"]["hardness"] + 0.004 * (chance.rand - 0.5)).clamp(0, 1).round(4)
        copy["paint"]["opacity"] = (copy["paint"]["opacity"] - 0.004 * chance.rand).round(4)
        copy
      end

      def insert(library, person, all)
        all.each_slice(1000).flat_map do |some|
          values = some.map { |settings|
            Core::Preset::Preset.restore(
              Core::Preset::Schema.fill(
                {
                  "format" => "fobrel.preset/1",
                  "id" => SecureRandom.uuid,
                  "method" => "dabs"
                }.merge(settings)
              )
            )
          }
          presets = Models::Preset.insert_all!(
            values.map {
              {
                library_id: library.id,
                document_id: _1.id,
                name: _1.name,
                created_at: Time.current,
                updated_at: Time.current
              }
            },
            returning: %w[id]
          ).map { _1["id"] }
          found = Models::Preset.where(id: presets).index_by(&:id)
          Models::Record.transaction do
            versions = Actions::AddVersions.call(
              items: presets.zip(values).map { |id, value|
                Actions::AddVersions::Item.new(found[id], value, "Generated", 1)
              },
              person:
            )
            versions.size
          end
          Models::Preset.where(id: presets).update_all("baseline_version_id = current_version_id")
          presets
        end
      end

      def arrange(library, ids, chance)
        tags = TAGS.map { Models::Tag.called(library, _1) }
        Models::Tagging.insert_all!(
          ids.flat_map { |id|
            tags.sample(chance.rand(4), random: chance).map { |tag|
              {tag_id: tag.id, preset_id: id}
            }
          }
        )
        categories = KINDS.map { |name| library.categories.find_or_create_by!(name:) }
        ids.group_by {
          categories.sample(random: chance)
        }.each { |category, some| Models::Preset.where(id: some).update_all(category_id: category.id) }
        12.times { |i| library.brush_sets.create!(name: "Set #{i}").put_in_order(ids.sample(80, random: chance)) }
      end
    end
  end
end
