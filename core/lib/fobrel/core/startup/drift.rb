# frozen_string_literal: true

module Fobrel
  module Core
    module Startup
      # How a desk's folder differs from the plan that was sent to it, by content.
      #
      #   Drift.of(folder).items   # => [{"kind" => "altered", "path" => "startup/01 Quay line.json", …}]
      class Drift
        KINDS = {
          "missing" => "deleted or moved away",
          "altered" => "altered",
          "foreign" => "somebody's own",
          "renamed" => "renamed here",
          "out of order" => "in another order",
          "wrong key" => "on another key",
          "aside" => "moved aside when replaced"
        }.freeze
        # A brush's own words travel with the report up to here, so many of them.
        LARGEST = 256 * 1024
        MOST_SENT = 60

        # @return [Array<Hash>] each with "kind" and "path"; "id", "name", "was", "now", "document", "sum" where they
        #   tell more. Those with "left" are as somebody decided to have them.
        attr_reader :items

        # @param folder [Folder]
        # @param kept [Array<Hash>] what somebody decided to leave: {"path", "sum"}; without a sum whatever it is
        # @return [Drift, nil] nil where nothing was sent
        def self.of(folder, kept: nil)
          plan = folder.plan
          plan && new(plan, folder, kept || plan["kept"] || [])
        end

        # What a server is told of a folder.
        #
        # @return [Hash] "plan", its number; "mark", see Plan.mark; "items"
        def self.found(folder, kept: nil)
          plan = folder.plan
          {"plan" => plan&.fetch("plan"), "mark" => Plan.mark(plan), "items" => of(folder, kept:)&.items || []}
        end

        def initialize(plan, folder, kept)
          @plan = plan
          @folder = folder
          @kept = kept
          @lies = folder.scan
          @lines = Layers::PARTS.flat_map { |part| plan[part] }.to_h { [_1["file"], _1] }
          @sent = 0
          @items = [*changed, *foreign, *listing, *beside].freeze
          freeze
        end

        # @return [Array<Hash>] what nobody has decided about
        def open = items.reject { _1["left"] || _1["kind"] == "aside" }

        # Whether something is not as it was sent; what is somebody's own beside it does not count.
        #
        # @return [Boolean]
        def any? = self.class.differing(items).any?

        # @param items [Array<Hash>] as #items gives them, also after they were sent
        # @return [Array<Hash>] those that are not as they were sent, and nobody wants them so
        def self.differing(items) = items.reject { |one| one["left"] || %w[aside foreign].include?(one["kind"]) }

        private

        def changed
          missing = @plan["files"].select { |path, _| !@lies.key?(path) }
          renamed, gone = missing.partition { |path, file| new_name(path, file) }
          altered = @plan["files"].select { |path, file| @lies[path] && @lies[path].sum != file["sum"] }
          renamed.map { |path, file| item("renamed", path, "now" => new_name(path, file), "sum" => file["sum"]) } +
            gone.map { |path, _| item("missing", path) } + altered.keys.map { |path|
                                                             item("altered", path, **told(path))
                                                           }
        end

        # What lies elsewhere with the same content, and is not there by the plan.
        def new_name(path, file)
          return unless @lines.key?(path)
          @by_sum ||= @lies.values.reject {
            @plan["files"].key?(_1.path) || _1.path.start_with?("aside/", "originals/")
          }
            .group_by(&:sum)
          @by_sum[file["sum"]]&.first&.path
        end

        def foreign
          names = @plan["files"].filter_map { |path, file| new_name(path, file) unless @lies.key?(path) }
          others = @lies.keys - @plan["files"].keys - [Plan::LISTING, Plan::WORDS] - names
          others.map { |path|
            kind = path.start_with?("aside/") ? "aside" : "foreign"
            next if path.start_with?("originals/")
            item(kind, path, **told(path))
          }.compact
        end

        # start.json is the order and the keys; by hand it may have been made another.
        def listing
          said = @folder.listing
          return [item("missing", Plan::LISTING)] unless @lies.key?(Plan::LISTING)
          lists = Layers::PARTS.to_h { |part| [part, Array(said[part]).grep(Hash)] }
          return [item("altered", Plan::LISTING, **told(Plan::LISTING))] if said["format"] != Plan::FORMAT
          Layers::PARTS.flat_map { |part| order(part, lists[part]) + keys(part, lists[part]) }
        end

        def order(part, said)
          was, now = [@plan[part], said].map { |list| list.map { _1["id"] } }
          both = was & now
          return [] if (now & was) == both
          [item("out of order", Plan::LISTING, "part" => part, "now" => said.filter_map { _1["name"] }.first(50))]
        end

        def keys(part, said)
          now = said.to_h { [_1["id"], _1["key"]] }
          @plan[part].filter_map { |line|
            next if !now.key?(line["id"]) || now[line["id"]] == line["key"]
            item("wrong key", line["file"], "was" => line["key"], "now" => now[line["id"]])
          }
        end

        def beside = @folder.beside.map { item("foreign", _1, "beside" => true) }

        def item(kind, path, more = {}, **told)
          line = @lines[path]
          sum = @lies[path]&.sum
          {
            "kind" => kind,
            "path" => path,
            "id" => line&.fetch("id"),
            "name" => line&.fetch("name"),
            "sum" => sum,
            "left" => left?(path, sum, line&.fetch("id")) || nil,
            **more,
            **told.transform_keys(&:to_s)
          }.compact
        end

        # A brush that is gone, and may be, has "gone" for a sum.
        def left?(path, sum, id)
          @kept.any? { |one|
            (one["path"] == path || (id && one["id"] == id)) && [nil, sum || "gone"].include?(one["sum"])
          }
        end

        # What a brush here says, so that it can be looked at, and proposed.
        def told(path)
          return {} unless path.end_with?(".json") && @lies[path].bytes <= LARGEST && (@sent += 1) <= MOST_SENT
          preset = Preset::Preset.parse(@folder.read(path, most: LARGEST), name: path)
          {name: preset.name, document: preset.to_h, fingerprint: preset.fingerprint}
        rescue Problem, SystemCallError => e
          {problem: e.message[0, 300]}
        end
      end
    end
  end
end
