# frozen_string_literal: true

module Fobrel
  module Core
    module Preset
      # What differs between two presets, setting by setting.
      #
      #   changes = Changes.between(current, draft)
      #   changes.words                    # => ["Size 40 px → 28 px", "Size by tilt none → 20 % to 100 %"]
      #   changes.apply(current) == draft  # => true
      class Changes
        # Stands for a setting that is not there at all, which a document may also say with null.
        NONE = Object.new.tap { |none| none.define_singleton_method(:inspect) { "none" } }.freeze
        # What stays with a preset whatever is changed on it.
        FIXED = %w[format id].freeze
        ORDER = %w[response order].freeze

        # One setting: its path in the document, its value before and after. A response is one
        # setting, at ["response", what is driven, what drives it, which of several].
        Change = Struct.new(:path, :from, :to) do
          # @return [String] in the words of the screen
          def words = Wording.change(self)

          # @return [String] the top group, such as "tip"
          def group = path.first
        end

        include Enumerable

        # @param from [Preset]
        # @param to [Preset]
        # @return [Changes]
        def self.between(from, to)
          new(
            compare(written_out(from), written_out(to), []).sort_by.with_index { |change, index|
              [place(change.path), index]
            }
          )
        end

        # @param changes [Array<Change>]
        def initialize(changes)
          @changes = changes.freeze
          freeze
        end

        def each(&) = @changes.each(&)

        def empty? = @changes.empty?

        # @param preset [Preset]
        # @return [Preset] with these settings at their new values
        # @raise [Preset::Invalid] when they do not go together with its others
        def apply(preset)
          document = @changes.inject(self.class.written_out(preset)) { |now, change|
            self.class.put(now, change.path, change.to)
          }
          Preset[self.class.gathered(document)]
        end

        # @return [Array<String>] each setting, from → to
        def words = map(&:words)

        # @param groups [Array<String>] such as ["tip", "paint"]
        # @return [Changes] those in these groups
        def in(groups) = Changes.new(select { groups.include?(_1.group) })

        # @param preset [Preset]
        # @return [Hash] all settings with their defaults, responses by what they join
        def self.written_out(preset)
          document = Schema.fill(preset.to_h)
          seen = Hash.new(0)
          cells = document["response"].to_h { |response|
            [[response["drives"], response["by"], (seen[response.values_at("drives", "by")] += 1).to_s], response]
          }
          document.except(*FIXED).merge(
            "response" => {"order" => cells.keys}.merge(cells),
            FIXED => document.slice(*FIXED)
          )
        end

        # The way back from #written_out to a document.
        def self.gathered(document)
          cells = document["response"].except("order")
          order = document["response"].fetch("order", [])
          keys = cells.keys.sort_by.with_index { |key, index| [order.index(key) || order.size, index] }
          document.except(FIXED).merge(document.fetch(FIXED)).merge("response" => keys.map { cells[_1] })
        end

        # @return [Object] the value at a path of #written_out, or NONE
        def self.at(document, path)
          keys(path).inject(document) { |value, key|
            (value.is_a?(Hash) && value.key?(key)) ? value[key] : (return NONE)
          }
        end

        # @return [Hash] with the value at a path
        def self.put(document, path, value)
          key, *rest = keys(path)
          set(document, key, rest, value)
        end

        class << self
          private

          def set(hash, key, rest, value)
            return value.equal?(NONE) ? hash.except(key) : hash.merge(key => value) if rest.empty?
            hash.merge(key => set(hash[key] || {}, rest.first, rest.drop(1), value))
          end

          # A response's path names its cell in three words.
          def keys(path) = (path.first == "response" && path.size == 4) ? ["response", path.drop(1)] : path

          def compare(from, to, path)
            return responses(from, to) if path == %w[response]
            return [] if from == to
            return [Change.new(path, from, to)] unless split?(from, to, path)
            (from.keys | to.keys).reject { _1 == FIXED }.flat_map do |key|
              compare(from.fetch(key, NONE), to.fetch(key, NONE), path + [key])
            end
          end

          # A tip of another kind, and a colour, change as a whole.
          def split?(from, to, path)
            return false unless from.is_a?(Hash) && to.is_a?(Hash)
            return false if path == %w[paint colour]
            path != %w[tip form] || from["kind"] == to["kind"]
          end

          def responses(from, to)
            cells = (from.keys | to.keys) - ["order"]
            changed = cells.map { |key|
              Change.new(["response", *key], from.fetch(key, NONE), to.fetch(key, NONE))
            }.reject { _1.from == _1.to }
            # Where new cells simply follow the old ones the order needs no change of its own.
            kept = from["order"] & to["order"]
            follows = kept + (to["order"] - kept)
            fresh = changed.select { _1.from.equal?(NONE) }.map { _1.path.drop(1) }
            shared = from["order"] - (from["order"] - to["order"])
            return changed if to["order"] == follows && fresh == to["order"] - kept && kept == shared
            changed << Change.new(ORDER, from["order"], to["order"])
          end

          # In the order of the schema, so that the list reads like the screen.
          def place(path)
            node = Schema::DOCUMENT
            path = path.first(1) if path.first == "response" # in the order they are applied
            path.map do |key|
              names = node.is_a?(Hash) ? node.fetch("properties", {}).keys : []
              node = node.is_a?(Hash) ? node.dig("properties", key) : nil
              format("%03d %s", names.index(key) || 999, key)
            end.join("/")
          end
        end
      end
    end
  end
end
