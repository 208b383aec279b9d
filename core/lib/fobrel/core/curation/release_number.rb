# frozen_string_literal: true

module Fobrel
  module Core
    module Curation
      # What changed from one release of a bundle to the next, and the number that follows from it
      # (Semantic Versioning 2.0.0): a brush gone, renamed or painting otherwise is a major
      # change, one more is a minor one, words alone are a patch.
      class ReleaseNumber
        # Raised when a number cannot be the next one.
        class Refused < Problem; end

        FIRST = "1.0.0"
        LEVELS = %w[major minor patch].freeze
        WRITTEN = /\A(0|[1-9]\d{0,8})\.(0|[1-9]\d{0,8})\.(0|[1-9]\d{0,8})\z/
        # A brush of a release: its lasting identity, its name, what it paints.
        Brush = Struct.new(:id, :name, :fingerprint)

        # @return [Hash{String => Array<String>}] names gone, renamed ("old → new"), repainted, added
        attr_reader :differences

        # @param before [Array<Brush>] of the last release
        # @param after [Array<Brush>]
        # @param words [Boolean] whether the description, order or notes differ
        def initialize(before, after, words: false)
          was = before.to_h { [_1.id, _1] }
          now = after.to_h { [_1.id, _1] }
          both = was.keys & now.keys
          @words = words
          @differences = {
            "gone" => (was.keys - now.keys).map { was[_1].name },
            "renamed" => both.reject { was[_1].name == now[_1].name }.map { "#{was[_1].name} → #{now[_1].name}" },
            "repainted" => both.reject { was[_1].fingerprint == now[_1].fingerprint }.map { now[_1].name },
            "added" => (now.keys - was.keys).map { now[_1].name }
          }.freeze
          freeze
        end

        # @return [String, nil] one of LEVELS; nil where nothing changed
        def level
          return "major" if differences.values_at("gone", "renamed", "repainted").any?(&:any?)
          return "minor" if differences["added"].any?
          "patch" if @words
        end

        # @param last [String, nil] the number before; nil where there is none
        # @return [String] the suggestion
        def next(last)
          return FIRST unless last
          major, minor, patch = self.class.parts(last)
          case level
          when "major" then "#{major + 1}.0.0"
          when "minor" then "#{major}.#{minor + 1}.0"
          else "#{major}.#{minor}.#{patch + 1}"
          end
        end

        # @param number [String] wanted; it may be raised above the suggestion, never lowered
        # @param last [String, nil]
        # @raise [Refused]
        def check(number, last)
          least = self.next(last)
          return if (self.class.parts(number) <=> self.class.parts(least)) >= 0
          raise Refused,
            "#{number} is below #{least}, which these changes ask for at the least. Nothing was released. Take " \
              "#{least} or a higher number."
        end

        # @return [Array<Integer>] major, minor, patch
        # @raise [Refused]
        def self.parts(number)
          match = WRITTEN.match(number.to_s) or raise Refused,
            "#{number.to_s[0, 40].inspect} is not written like 1.0.0. Nothing was released."
          match.captures.map(&:to_i)
        end

        # @return [String] notes to begin with
        def notes
          lines = differences.filter_map { |kind, names| "#{kind.capitalize}: #{names.join(", ")}." if names.any? }
          lines << "Words only." if lines.empty? && @words
          lines.join("\n")
        end
      end
    end
  end
end
