# frozen_string_literal: true

require_relative "brushes"
require_relative "desks"

module Fobrel
  module Demo
    # Builds the demo studio: a small team making an invented short film about a harbour town
    # in a storm. Three people, two libraries, brushes, tags, sets, desks.
    module Studio
      # For trying things out on this machine only; a real studio makes its own people.
      PASSWORD = "storm over skerrow"
      PEOPLE = {"maren" => "Maren Oake", "tove" => "Tove Lindgaard", "ilse" => "Ilse Brandow"}.freeze
      ABOUT = {
        "Storm over Skerrow" =>
          "Brushes of the short film: lines of the quay, weather, ropes and stone. One light, cold " \
          "and from the sea; keep blacks for the foreground."
      }.freeze
      ROLES = {
        "Storm over Skerrow" => {"maren" => "lead", "tove" => "artist", "ilse" => "guest"},
        "Second unit" => {"maren" => "lead", "tove" => "lead"}
      }.freeze
      SETS = {
        "Line kit" => ["Quay line", "Chart nib", "Tide line", "Splice pen", "Reed quill", "Logbook pencil"],
        "Act 1, the quay" => ["Cobblestones", "Mooring ring", "Laid rope", "Wet stone", "Deck plank", "Hull rivets"],
        "Act 2, the storm" => [
          "Harbour fog",
          "Storm slant",
          "Low cloud",
          "Breaker foam",
          "Rain hatch",
          "Gulls",
          "Lantern bloom"
],
        "Arcade on the pier" => ["Pixel square", "Pixel round", "Pixel plus", "Chequer flag"]
      }.freeze
      CATEGORIES = {
        "Lines" => ["lineart", %w[Hatches]],
        "Washes" => ["weather", []],
        "Dry marks" => ["texture", []],
        "Stamps" => ["stamp", []],
        "Ropes and ribbons" => ["rigging", []],
        "Grounds" => ["stone", []],
        "Smears" => ["smear", []]
      }.freeze
      LABELS = ["to be checked", "released", "for the archive"].freeze
      STANDING = {"Answers to tilt" => "trait: answers to tilt", "In no plan yet" => "used in: nothing"}.freeze

      class << self
        # @param paint [Boolean] whether all strips are painted now, which takes most of the time, or when asked for
        # @return [void]
        def build(paint: true)
          warn "Drawing the demo studio"
          Models::Record.transaction do
            people = PEOPLE.to_h { |login, name| [login, Models::Person.create!(login:, name:, password: PASSWORD)] }
            people["maren"].update!(owner: true)
            libraries = ROLES.to_h { |name, roles| [name, library(name, roles, people)] }
            furnish(libraries["Storm over Skerrow"], people["maren"], people)
            import_brushes(libraries["Second unit"], people["tove"], Brushes.inks.last(1))
            people.each_value(&:own_library!)
            follow(libraries["Second unit"], libraries["Storm over Skerrow"].bundles.first, people["maren"])
            proposal(libraries["Storm over Skerrow"], people["tove"])
          end
          paint_strips if paint
        end

        # Brushes with their pictures and tags.
        #
        # @param brushes [Array<Brushes::Brush>]
        # @return [Hash{String => Models::Preset}] by name
        def import_brushes(library, person, brushes)
          brushes.to_h do |brush|
            brush.pictures.each { Models::Asset.keep(_1, _1.start_with?("<svg") ? "svg" : "png") }
            value = Core::Preset::Preset.build(brush.name, brush.settings)
            preset = Actions::CreatePreset.call(library:, value:, person:, note: "Received", origin: "received")
            brush.tags.each { Models::Tag.called(library, _1).taggings.create!(preset:) }
            [brush.name, preset]
          end
        end

        private

        # Two at a time: each is painted by a process of its own, and this one only waits.
        def paint_strips
          left = Queue.new(Models::Preset.includes(:current_version).map { _1.current_version.value }).tap(&:close)
          painters = Array.new(2) do
            Thread.new do
              while (value = left.pop)
                Models::Record.connection_pool.with_connection { Models::KeptStrip.png_of(value, "list") }
              end
            end
          end
          painters.each(&:value)
        end

        def library(name, roles, people)
          Models::Library.create!(name:, description: ABOUT.fetch(name, "")).tap { |made|
            roles.each { |login, role|
              made.memberships.create!(person: people[login], role:)
            }
          }
        end

        def furnish(library, person, people)
          presets = import_brushes(library, person, Brushes.all)
          SETS.each { |name, names| library.brush_sets.create!(name:).put_in_order(names.map { presets.fetch(_1).id }) }
          Desks.furnish(library, presets, people)
          soften(presets.fetch("Harbour fog"), person)
          arrange(library, presets)
          bundle(library, presets, person)
          duplicates(library, presets, person)
          Desks.go_on(library, person)
        end

        # What comes of copying by hand: one that paints the same, one that is hardly another.
        def duplicates(library, presets, person)
          line = presets.fetch("Quay line").current_version.value
          fog = presets.fetch("Harbour fog").current_version.value
          copies = [
            line.to_h.merge("name" => "Line for the quay"),
            fog.to_h.merge(
              "name" => "Harbour fog, brighter",
              "paint" => fog["paint"].merge("opacity" => (fog["paint", "opacity"] * 0.99).round(3))
            )
          ]
          copies.each {
            Actions::CreatePreset.call(
              library:,
              value: Core::Preset::Preset[_1.merge("id" => SecureRandom.uuid)],
              person:,
              note: "Copied by hand"
            )
          }
        end

        # The second unit keeps up with the storm kit, and has one of its brushes its own way.
        def follow(library, bundle, person)
          Actions::BeginToFollow.call(library:, person:, wanted: [[bundle, bundle.releases.last]])
          tune(library.presets.find_by!(name: "Low cloud"), person, "Thinner, for wide shots") { |document|
            document["paint"]["flow"] = 0.1
          }
        end

        # An artist's own version of a brush, proposed to the library it was taken from.
        def proposal(library, person)
          own = person.own_library!
          line = library.presets.find_by!(name: "Quay line")
          taken = Actions::TakeBrushes.call(library: own, person:, presets: [line]).made.first
          tune(taken, person, "Broader") { |document| document["tip"]["size"]["base"] = 26 }
          Actions::ProposeBrushes.call(
            library:,
            person:,
            picked: Actions::ProposeBrushes.picked([taken.reload], person, false),
            sentence: "The quay line, broader: for walls close to us."
          )
        end

        def tune(preset, person, note)
          document = JSON.parse(JSON.generate(preset.current_version.document))
          yield document
          Actions::AddVersion.call(preset:, value: Core::Preset::Preset[document], person:, note:)
        end

        # A bundle that was released once and has grown since.
        def bundle(library, presets, person)
          names = SETS.fetch("Act 2, the storm")
          made = library.bundles.create!(
            name: "Act 2, storm kit",
            author: person.name,
            licence: "CC-BY-4.0",
            description: "Everything for the storm over the quay."
          )
          made.put_in_order(
            names.first(5).map {
              presets.fetch(_1).id
            },
            {presets.fetch(names[3]).id => "Water", presets.fetch(names[4]).id => "Water"}
          )
          Actions::ReleaseBundle.call(bundle: made, person:, notes: "First for the animators.")
          made.put_in_order(names.map { presets.fetch(_1).id })
          made.update!(cover: presets.fetch(names.first))
        end

        # Categories by tag, statuses, sets that fill themselves.
        def arrange(library, presets)
          CATEGORIES.each_with_index do |(name, (tag, children)), position|
            category = library.categories.create!(name:, position:)
            children.each { library.categories.create!(name: _1, parent: category) }
            Models::Preset.where(
              library:,
              category: nil,
              id: Models::Tagging.joins(:tag).where(
                tags: {
                  name: tag,
                  library_id: library.id
                }
              ).select(:preset_id)
            ).update_all(category_id: category.id)
          end
          hatches = presets.select { |name, _| name.match?(/hatch|shade/i) }.values.map(&:id)
          Models::Preset.where(id: hatches).update_all(category_id: library.categories.find_by!(name: "Hatches").id)
          LABELS.each_with_index { |name, position|
            library.statuses.create!(name:, position:, **Models::Looks.next(position + 1))
          }
          label = ->(name) { {status_id: library.statuses.find_by!(name:).id} }
          Models::Preset.where(id: presets.values.first(18).map(&:id)).update_all(label["released"])
          Models::Preset.where(id: presets.values.last(5).map(&:id)).update_all(label["to be checked"])
          library.tags.find_by(name: "lineart")&.synonyms&.create!(library:, name: "inking")
          STANDING.each { |name, query| library.brush_sets.create!(name:, query:) }
        end

        # One brush that was tuned since it was received.
        def soften(preset, person)
          document = preset.current_version.value
          value = document.with("paint", document["paint"].merge("flow" => 0.11))
          Actions::AddVersion.call(preset:, value:, person:, note: "Softer edge, a little denser")
        end
      end
    end
  end
end
