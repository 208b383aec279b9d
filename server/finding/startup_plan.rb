# frozen_string_literal: true

module Fobrel
  module Finding
    # What the lines of a start-up plan bring: each brush once, where it stands first, with its key.
    class StartupPlan
      # A brush of it. `line` is what brings it; `twice` says that an earlier line brought it already.
      Brush = Struct.new(:id, :preset_id, :version, :line, :key, :twice, :newer, keyword_init: true) do
        def name = version.document["name"]
      end
      # What a line is called, and what of it cannot be had.
      Named = Struct.new(:line, :title, :at, :problem, :brushes, :newest, :pin, keyword_init: true)

      # @param desk [Models::Desk]
      # @param lines [Array<Models::Desk::Line>] instead of the desk's own
      # @param keys [Hash{String => String}]
      def initialize(desk, lines: desk.lines, keys: desk.key_of)
        @desk = desk
        @library = desk.library
        @lines = lines
        @keys = keys
      end

      # @return [Array<Named>] line by line
      def lines
        @found ||= begin
          seen = Set.new
          @lines.map { |line|
            named(line).tap { |one|
              one.brushes.each { |brush|
                brush.twice = !seen.add?(brush.id)
              }
            }
          }
        end
      end

      # @return [Array<Brush>] each once, startup first
      def brushes = lines.flat_map(&:brushes).reject(&:twice)

      # @return [Array<Array(Integer, String)>] presets of the desk's own library, with their part
      def presets = brushes.filter_map { |one| [one.preset_id, one.line.part] if one.preset_id }.uniq(&:first)

      # @return [Array<Hash>] id, version number and fingerprint of each
      def planned
        brushes.map { |one|
          {"id" => one.preset_id, "version" => one.version.number, "fingerprint" => one.version.fingerprint}
        }
      end

      # @return [Core::Startup::Keys] of what loads at start
      def keys
        loaded = brushes.select { _1.line.part == "startup" }
        names = loaded.to_h { [_1.id, _1.name] }
        Core::Startup::Keys.new(
          @keys.slice(*names.keys), reserved: @library.reserved_keys, count: @desk.key_count, names:
        )
      end

      # @return [Hash] memory (bytes), ms, usual (ms before anything was learned), heaviest [{name, memory}]
      def load
        loaded = brushes.select { _1.line.part == "startup" }
        facts = Shelf.facts_of(loaded.flat_map { |one| parts(one) }.uniq)
        sizes = facts.transform_values { |one|
          Core::Startup::Load.memory(one["width"] || 0, one["height"] || 0, one["own"] ? 4 : 1)
        }
        memory = sizes.values.sum
        usual = Core::Startup::Load.usual(loaded.size, memory)
        heavy = loaded.map { |one| {id: one.id, name: one.name, memory: parts(one).sum { |sum| sizes.fetch(sum, 0) }} }
        starts = @desk.starts.map { |one| one.values_at("usual", "ms") }
        {
          memory:,
          usual: usual.round,
          ms: Core::Startup::Load.time(loaded.size, memory, starts).round,
          heaviest: heavy.select { _1[:memory].positive? }.max_by(10) { _1[:memory] }
        }
      end

      private

      def parts(brush) = brush.version.value.parts.map { Core::Sum.in(_1) }

      def named(line)
        kind, id = line.thing.split("/", 2)
        send(kind, line, id)
      rescue ActiveRecord::RecordNotFound
        Named.new(line:, title: "gone", problem: "It is not there any more.", brushes: [])
      end

      # One brush, at its newest version or staying at one.
      def brush(line, document)
        preset = singles[document] or raise ActiveRecord::RecordNotFound
        current = preset.current_version
        version = (line.at && line.at != current.number) ? preset.versions.find_by(number: line.at) || current : current
        newer = (current.number if current.number > version.number)
        found = made(line, preset, version, newer)
        problem = "It is hidden." if preset.hidden_at
        Named.new(
          line:,
          title: preset.name,
          at: line.at && "version #{line.at}",
          problem:,
          brushes: [found],
          newest: newer
        )
      end

      def singles
        documents = @lines.filter_map { |line| line.thing[%r{\Abrush/([0-9a-fA-F-]{36})\z}, 1] }
        @singles ||= @library.presets.where(document_id: documents).includes(:current_version).index_by(&:document_id)
      end

      # What a set holds now, also one that fills itself.
      def set(line, id)
        set = @library.brush_sets.find(id)
        presets = set.automatic? ? found_by(set) : @library.presets.shown.where(id: set.preset_ids_in_order).to_a
        order = set.automatic? ? nil : set.preset_ids_in_order.each_with_index.to_h
        presets = presets.sort_by { |preset| order[preset.id] } if order
        ActiveRecord::Associations::Preloader.new(records: presets, associations: :current_version).call
        brushes = presets.map { |preset| made(line, preset, preset.current_version) }
        Named.new(line:, title: "set “#{set.name}”", brushes:, problem: ("It is empty." if brushes.empty?))
      end

      def found_by(set)
        person = @library.people.here.where(memberships: {role: "lead"}).first or return []
        set.search(person).presets.order(:name).limit(Core::Startup::Plan::BRUSHES).to_a
      end

      # A bundle's brushes as one of its releases has them; also of a library elsewhere.
      def bundle(line, id)
        bundle = Models::Bundle.find(id)
        newest = Models::Follow.new(bundle:).newest
        release = line.at ? bundle.releases.listed.find(line.at) : newest
        title = "bundle “#{bundle.name}”"
        title = "#{title} of #{bundle.library.name}" if bundle.library_id != @library.id
        return Named.new(line:, title:, brushes: [], problem: "It has no release that counts.") unless release
        behind = newest.number if line.at && newest && newest.id != release.id
        brushes = of_release(line, bundle, release)
        lost = release.items.size - brushes.size
        problem = "#{lost} of its brushes were deleted and cannot be sent." if lost.positive?
        problem = "Release #{release.number} was withdrawn." if release.withdrawn_at
        Named.new(line:, title:, at: release.number, problem:, newest: behind, brushes:, pin: release.id)
      end

      def of_release(line, bundle, release)
        prints = release.items.to_h { |item| [item["id"], item["fingerprint"]] }
        versions = Models::Version.joins(:preset).includes(:preset)
          .where(fingerprint: prints.values, presets: {library_id: bundle.library_id, document_id: prints.keys})
          .select { |version| prints[version.preset.document_id] == version.fingerprint }
          .group_by { |version| version.preset.document_id }
        here = @library.presets.where(document_id: prints.keys).index_by(&:document_id)
        release.items.filter_map { |item|
          version = versions[item["id"]]&.max_by(&:number) or next
          Brush.new(id: item["id"], preset_id: here[item["id"]]&.id, version:, line:, key: @keys[item["id"]])
        }
      end

      def made(line, preset, version, newer = nil)
        Brush.new(id: preset.document_id, preset_id: preset.id, version:, line:, key: @keys[preset.document_id], newer:)
      end
    end
  end
end
