# frozen_string_literal: true

module Fobrel
  module Core
    module Preset
      # Raised when a preset cannot do its work because a tip, grain or picture is not there.
      class MissingNeed < Problem
        # The one judge of whether a preset lacks something.
        #
        # @param preset [Preset]
        # @param at_hand [#include?] references
        # @return [MissingNeed, nil] of the first need that is not at hand
        def self.of(preset, at_hand)
          need = preset.needs.find { |one| !at_hand.include?(one) }
          need && new(preset, need)
        end

        # @return [String] the reference of what is missing
        attr_reader :need

        # @param preset [Preset]
        # @param need [String] "sha256:…"
        def initialize(preset, need)
          @need = need
          super(
            "“#{preset.name}” needs the picture #{need[0,
              19]}…, which is not here. Put the file in beside the others " \
              "and try again."
          )
        end
      end
    end
  end
end
