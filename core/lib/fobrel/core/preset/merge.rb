# frozen_string_literal: true

module Fobrel
  module Core
    module Preset
      # Two people's changes to one preset brought together, setting by setting, against the
      # version both started from. What only one of them changed is taken; what both changed to
      # different values is a conflict, and somebody has to choose.
      #
      #   merge = Merge.new(base:, mine:, theirs:)
      #   merge.conflicts.map(&:title)                        # => ["Size"]
      #   merge.preset(merge.conflicts.to_h { [_1.key, "mine"] })
      class Merge
        # Raised when a conflict was not decided.
        class Undecided < Problem; end

        SIDES = %w[mine theirs].freeze

        # One setting that both changed, with the three values.
        Conflict = Struct.new(:path, :base, :mine, :theirs) do
          # @return [String] what a choice names it by
          def key = JSON.generate(path)

          def title = Wording.title(path)

          # @return [Hash{String => String}] the three values in the words of the screen
          def words = {"base" => base, "mine" => mine, "theirs" => theirs}.transform_values { Wording.value(path, _1) }
        end

        # @return [Array<Conflict>]
        attr_reader :conflicts
        # @return [Changes] each side's changes since the base
        attr_reader :mine, :theirs

        # @param base [Preset] the common version
        # @param mine [Preset]
        # @param theirs [Preset]
        def initialize(base:, mine:, theirs:)
          @base = base
          @mine = Changes.between(base, mine)
          @theirs = Changes.between(base, theirs)
          @documents = [base, mine, theirs].map { Changes.written_out(_1) }
          @conflicts = find_conflicts.freeze
          freeze
        end

        # @param choices [Hash{String => String}] from a conflict's key to "mine" or "theirs"
        # @return [Preset]
        # @raise [Undecided] naming what was not decided
        # @raise [Preset::Invalid] when the chosen settings do not go together
        def preset(choices = {})
          open = conflicts.reject { SIDES.include?(choices[_1.key]) }
          if open.any?
            raise Undecided,
              "Both of you changed #{open.map(&:title).join(", ")}. Nothing was saved. Choose one of the two for each."
          end
          settled = [*theirs, *mine].reject { |change| conflicts.any? { overlap?(_1.path, change.path) } }
          chosen = conflicts.map { Changes::Change.new(_1.path, _1.base, _1[choices[_1.key].to_sym]) }
          Changes.new(settled + chosen).apply(@base)
        end

        private

        def find_conflicts
          paths = mine.flat_map { |one|
            theirs.select { |other|
              overlap?(one.path, other.path) && !agree?(one, other)
            }.map { |other| [one.path, other.path].min_by(&:size) }
          }
          paths.uniq.map { |path| Conflict.new(path, *@documents.map { Changes.at(_1, path) }) }
        end

        def agree?(one, other) = one.path == other.path && one.to == other.to

        def overlap?(one, other) = one.zip(other).first([one.size, other.size].min).all? { _1 == _2 }
      end
    end
  end
end
