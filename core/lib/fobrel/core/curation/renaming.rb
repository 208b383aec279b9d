# frozen_string_literal: true

module Fobrel
  module Core
    module Curation
      # New names for many brushes at once: one name for all, find and replace, prefix and suffix,
      # case, the first tag, numbers. Steps are taken in this order.
      #
      #   Renaming.new("find" => "fog", "replace" => "mist", "case" => "title").names(["Harbour fog"], [[]])
      #   # => ["Harbour Mist"]
      class Renaming
        # Raised when a rule cannot be followed.
        class Unclear < Problem; end

        CASES = %w[keep lower upper title sentence].freeze
        # Where a name could go: its row's number in the list, its clash.
        Row = Struct.new(:from, :to, :clash)

        # @param rules [Hash] "name" (instead of the one it has), "find", "replace" (plain text, all
        #   cases), "prefix", "suffix",
        #   "case" (one of CASES), "tag" (true puts the first tag before the name),
        #   "number" ({"start", "width"}) or nil
        # @raise [Unclear]
        def initialize(rules)
          @rules = rules
          raise Unclear, "A letter case is one of #{CASES.join(", ")}." unless CASES.include?(
            rules.fetch(
              "case",
              "keep"
            )
          )
          number = rules["number"] or return
          whole = ->(value, range) { value.is_a?(Integer) && range.cover?(value) }
          return if number.is_a?(Hash) && whole[number["start"], 0..999_999] && whole[number["width"], 1..6]
          raise Unclear, "Numbers start between 0 and 999999 and are 1 to 6 digits wide."
        end

        # @param names [Array<String>]
        # @param tags [Array<Array<String>>] of each brush, first one first
        # @return [Array<String>]
        def names(names, tags)
          names.each_with_index.map { |name, index| renamed(name, tags[index] || [], index) }
        end

        # The new names with what stands in their way.
        #
        # @param taken [Enumerable<String>] names of brushes that are not renamed
        # @return [Array<Row>] clash is nil, "empty", "too long", "taken" or "twice"
        def plan(names, tags, taken)
          fresh = names(names, tags)
          here = taken.to_set { _1.downcase }
          counts = fresh.map(&:downcase).tally
          names.zip(fresh).map { |from, to| Row.new(from, to, clash(to, here, counts)) }
        end

        private

        def clash(name, here, counts)
          return "empty" if name.empty?
          return "too long" if name.size > 200
          return "taken" if here.include?(name.downcase)
          "twice" if counts[name.downcase] > 1
        end

        def renamed(name, tags, index)
          name = @rules["name"] if @rules["name"].is_a?(String)
          find = @rules["find"].to_s
          name = name.gsub(/#{Regexp.escape(find)}/i) { @rules["replace"].to_s } unless find.empty?
          name = cased(name)
          name = "#{tags.first} #{name}" if @rules["tag"] == true && tags.any?
          name = "#{@rules["prefix"]}#{name}#{@rules["suffix"]}"
          name = "#{name} #{number(index)}" if @rules["number"]
          Names.clean(name)
        end

        def number(index) = (@rules["number"]["start"] + index).to_s.rjust(@rules["number"]["width"], "0")

        def cased(name)
          case @rules["case"]
          when "lower" then name.downcase
          when "upper" then name.upcase
          when "title" then name.gsub(/(?<![[:alpha:]'’])[[:alpha:]]/, &:upcase)
          when "sentence" then name.downcase.sub(/[[:alpha:]]/, &:upcase)
          else name
          end
        end
      end
    end
  end
end
