# frozen_string_literal: true

module Fobrel
  module Core
    module Curation
      # The next variation of a name takes the next number.
      module Numbering
        # @param name [String] such as "Fog" or "Fog 2"
        # @param taken [Enumerable<String>] names that are in use
        # @return [String] such as "Fog 2" or "Fog 3", not in use, at most 200 characters; a number
        #   written as wide as "04" keeps its width
        def self.next_name(name, taken)
          width = name[/\s(0\d{0,5})\z/, 1].to_s.size
          stem = stem(name)
          used = taken.filter_map { |other|
            other.downcase[/\A#{Regexp.escape(stem.downcase)}(?:\s+(\d{1,6}))?\z/] && ($1 || 1).to_i
          }
          "#{stem} #{([1, *used].max + 1).to_s.rjust(width, "0")}"
        end

        # @param name [String] such as "Fog 2"
        # @return [String] such as "Fog", which its numbers follow
        def self.stem(name) = name.sub(/\s+\d{1,6}\z/, "")[0, 190]
      end
    end
  end
end
