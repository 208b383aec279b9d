# frozen_string_literal: true

module Fobrel
  module Core
    module Preset
      # The settings of a preset as a form shows them: those that mean something for this brush (no hardness on a
      # picture tip, no depth without a grain), titled, with units and ranges, in the schema's order.
      #
      #   sheet = Sheet.new(preset)
      #   sheet.settings.first.title   # => "Hardness"
      #   sheet.drives                 # => ["size", "opacity", …]
      class Sheet
        # A setting.
        #
        # - `path` in the document, `group` its first key
        # - `kind` number, switch, choice, turn (how the next frame is chosen), colour or text
        # - `unit` such as "px"; a share counts in per cent: `least`, `most` (how far a slider goes), `limit` (how far
        #   the number may go) and `step` are in that count
        # - `choices` each value with its word on the screen
        # - `caution` a sentence where the setting does not do what it says, or nil
        Setting = Struct.new(
          :group,
          :path,
          :title,
          :help,
          :kind,
          :unit,
          :least,
          :most,
          :limit,
          :step,
          :choices,
          :caution,
          keyword_init: true
        )

        # Groups that hold settings; what a brush is called and for is none.
        GROUPS = Schema::DOCUMENT["properties"].select { |name, node|
          !%w[about response].include?(name) && (node["properties"] || node["anyOf"])
        }.freeze
        LEAST = %w[tip size minimum].freeze
        MOST = %w[tip size maximum].freeze
        SIZE = %w[tip size base].freeze
        # Chosen with the colour, and with the tip itself.
        ELSEWHERE = [%w[tip form colours], %w[tip form kind]].freeze
        # What needs more than the method to mean something, when driven.
        DRIVEN = {
          "grain depth" => ->(sheet) { sheet.at(%w[grain]) },
          "frame" => ->(sheet) { sheet.frames > 1 },
          "mix" => ->(sheet) { %w[dabs smear].include?(sheet.at(%w[method])) }
        }.freeze
        private_constant :GROUPS, :LEAST, :MOST, :SIZE, :ELSEWHERE, :DRIVEN

        # @param preset [Preset]
        def initialize(preset)
          @document = Schema.fill(preset.to_h)
        end

        # @return [Array<Setting>]
        def settings = GROUPS.flat_map { |name, node| walk(node, [name]) }

        # @return [Array<String>] what a response may drive on this brush
        def drives = Sheet.driven.select { |name| DRIVEN.fetch(name, ->(_) { true }).call(self) }

        # What of the moment's state could be saved along.
        #
        # @return [Array<Hash>] name, title, there (whether there is something to save), words, colour (or nil)
        def captures
          Capture::ITEMS.map do |name, (path, usual)|
            value = at(path)
            there = (name == "colour") ? value["mode"] == "fixed" : value != usual
            words = there ? Wording.value(path, value) : "nothing to save"
            {name:, title: Wording.title(path), there:, words:, colour: (value["value"] if there && name == "colour")}
          end
        end

        # @return [Integer] pictures of the tip
        def frames = at(%w[tip form frames])&.size || 0

        # @return [Object, nil] the value at a path
        def at(path) = path.inject(@document) { |value, key| value.is_a?(Hash) ? value[key] : nil }

        # What the screen says of all brushes alike.
        #
        # @return [Hash] groups, method, sensors and drives, each with its words
        def self.words
          {
            groups: GROUPS.map { |name, node| {name:, title: node["title"], help: node["description"].to_s} },
            method: method_words,
            sensors: response("by")["enum"].map { |name| sensor(name) },
            drives: driven.map { |name| {name:, unit: Stroke::Response.unit(name), **FRESH.fetch(name, USUAL)} }
          }
        end

        # @return [Array<String>] all that responses drive
        def self.driven = response("drives")["enum"]

        # What a new response does before anybody tunes it, by what it drives: its two ends, and those where chance
        # drives it.
        USUAL = {ends: [0.2, 1.0], by_chance: [0.2, 1.0]}.freeze
        FRESH = {
          "angle" => {ends: [0, 360], by_chance: [-30, 30]},
          "hue" => {ends: [0, 20], by_chance: [-15, 15]},
          "saturation" => {ends: [-0.2, 0.2], by_chance: [-0.2, 0.2]},
          "lightness" => {ends: [-0.2, 0.2], by_chance: [-0.2, 0.2]},
          "frame" => {ends: [0, 1], by_chance: [0, 1]}
        }.freeze
        CHANCE = %w[random stroke].freeze
        private_constant :USUAL, :FRESH, :CHANCE

        class << self
          private

          def response(field) = Schema::DOCUMENT.dig("properties", "response", "items", "properties", field)

          def method_words
            node = Schema::DOCUMENT.dig("properties", "method")
            {help: node["description"], choices: node["enum"]}
          end

          def sensor(name)
            word = Wording::SENSORS.fetch(name, name)
            {name:, word:, help: response("by").dig("x-helps", name).to_s, chance: CHANCE.include?(name)}
          end
        end

        private

        def walk(node, path)
          value = at(path)
          return [] unless value.is_a?(Hash)
          Schema.known(value, node).flat_map do |key, inner|
            here = [*path, key]
            next [] unless means?(inner)
            kind = kind(inner, here)
            kind ? [setting(inner, here, kind)] : walk(inner, here)
          end
        end

        # Whether a setting means something for this brush.
        def means?(node)
          return false if node["x-methods"] && !node["x-methods"].include?(@document["method"])
          case node["x-needs"]
          when "frames" then frames > 1
          when "two turns" then frames > 1 && at(%w[tip form turn]).is_a?(Array)
          else true
          end
        end

        def kind(node, path)
          return "colour" if path == %w[paint colour]
          return "turn" if path == %w[tip form turn]
          return if ELSEWHERE.include?(path) || node["$ref"] || %w[array object].include?(node["type"]) || node["anyOf"]
          return "choice" if node["enum"]
          {"boolean" => "switch", "number" => "number", "integer" => "number"}.fetch(node["type"], "text")
        end

        def setting(node, path, kind)
          unit = node["x-unit"].to_s
          factor = (unit == "%") ? 100 : 1
          least, limit = limits(node, path).map { |end_of_range| end_of_range * factor }
          value = at(path)
          reach = [node["x-reach"] || node["maximum"] || 1, value.is_a?(Numeric) ? value : 0].max
          Setting.new(
            group: path.first,
            path:,
            title: node["title"] || path.last,
            help: node["description"].to_s,
            kind:,
            unit:,
            least:,
            most: reach * factor,
            limit:,
            step: (node["type"] == "integer" || %w[% °].include?(unit)) ? 1 : 0.5,
            choices: choices(node, kind),
            caution: (caution if path == SIZE)
          )
        end

        # The minimum size is not above the most, nor the most below it.
        def limits(node, path)
          least = node["minimum"] || 0
          most = node["maximum"] || 1_000_000
          return [least, [most, at(MOST)].min] if path == LEAST
          return [[least, at(LEAST)].max, most] if path == MOST
          [least, most]
        end

        def choices(node, kind)
          values = (kind == "turn") ? Schema::DOCUMENT.dig("$defs", "turn", "enum") : node.fetch("enum", [])
          values.map { |value| {value:, word: node.dig("x-words", value) || value || "none"} }
        end

        def caution
          base, least, most = at(%w[tip size]).values_at("base", "minimum", "maximum")
          return "It paints at #{Wording.value(MOST, most)}: the maximum size holds it there." if base > most
          "It paints at #{Wording.value(LEAST, least)}: the minimum size holds it there." if base < least
        end
      end
    end
  end
end
