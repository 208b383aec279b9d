# frozen_string_literal: true

module Fobrel
  module Actions
    # What RevisePresets does when settings of one brush are copied to others.
    class CopySettings
      # @param from [Core::Preset::Preset]
      # @param groups [Array<String>] as the document names them: "tip", "stroke", …
      # @raise [Core::Problem] where it is none
      def initialize(from:, groups:)
        raise Core::Problem, "Choose at least one group of settings to copy. Nothing was changed." if groups.empty?
        @from = from
        @groups = groups
      end

      def kind = "copy settings"

      def deed = "given the settings #{@groups.join(", ")} of “#{@from.name}”"

      # @return [Proc] from a brush's settings to those it gets
      def to_proc = ->(value) { Core::Preset::Changes.between(value, @from).in(@groups).apply(value) }
    end
  end
end
