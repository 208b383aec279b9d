# frozen_string_literal: true

module Fobrel
  module Core
    module Preset
      # Settings and their values in the words of the screen: fractions as per cent, with units.
      module Wording
        EXCHANGED = {%w[tip form frames] => "Pictures of the tip", %w[tip form asset] => "Drawing of the tip"}.freeze
        # Told by looking at them, or too long to tell.
        SEEN = %w[notes picture purpose ground sizes].map { |key| ["about", key] }.freeze
        private_constant :EXCHANGED, :SEEN

        # What a response's sensors are called, where not as in the file.
        SENSORS = Schema::DOCUMENT.dig("properties", "response", "items", "properties", "by", "x-words").freeze

        # @param change [Changes::Change]
        # @return [String] such as "Size 40 px → 28 px"
        def self.change(change)
          return "The order of the responses" if change.path == Changes::ORDER
          title = title(change.path)
          return "#{title} changed" if SEEN.include?(change.path)
          from, to = [change.from, change.to].map { value(change.path, _1) }
          # Pictures are told by seeing them.
          (from == to) ? "#{EXCHANGED.fetch(change.path, title)} exchanged" : "#{title} #{from} → #{to}"
        end

        # @param path [Array<String>] of a setting
        # @return [String]
        def self.title(path)
          return "#{path[1].capitalize} by #{SENSORS.fetch(path[2], path[2])}" if path.first == "response"
          Schema.setting(path)&.fetch("title", nil) || path.join(".")
        end

        # @param path [Array<String>] of the setting it belongs to
        # @param value [Object] as the document holds it
        # @return [String]
        def self.value(path, value)
          case value
          when Changes::NONE, nil then "none"
          when true then "on"
          when false then "off"
          when Numeric then number(value, Schema.setting(path)&.fetch("x-unit", nil))
          when Array then list(path, value)
          when Hash then whole(path, value)
          when /\Asha256:/ then "picture #{value[7, 6]}"
          when "" then "empty"
          else Schema.setting(path)&.dig("x-words", value) || value.to_s
          end
        end

        class << self
          private

          def number(value, unit)
            return "#{short((value * 1000).round / 10.0)} %" if unit == "%"
            text = short((value * 100).round / 100.0)
            return text unless unit
            (unit == "°") ? "#{text}°" : "#{text} #{unit}"
          end

          def short(number) = (number == number.round) ? number.round.to_s : number.to_s

          def list(path, value)
            return "#{value.size} #{(value.size == 1) ? "picture" : "pictures"}" if path.last == "frames"
            value.empty? ? "none" : value.join(", ")
          end

          def whole(path, value)
            case path.first(2)
            in ["response", *] then response(value)
            in ["tip", "form"] then value["kind"]
            in ["paint", "colour"] then (value["mode"] == "fixed") ? value["value"] : "the artist's"
            in ["grain"] then "grain"
            else JSON.generate(value)
            end
          end

          def response(value)
            unit = Stroke::Response.unit(value["drives"])
            bent = (value["curve"] == Stroke::Curve::STRAIGHT) ? "" : ", bent"
            "#{number(value["from"], unit)} to #{number(value["to"], unit)}#{bent}"
          end
        end
      end
    end
  end
end
