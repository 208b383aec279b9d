# frozen_string_literal: true

module Fobrel
  module Core
    module Preset
      # Raised when a preset cannot do its work because a tip, grain or picture is not there.
      class MissingNeed < Problem
        # @param preset [Preset]
        # @param reference [String] "sha256:…"
        def initialize(preset, reference)
          super(
            "“#{preset.name}” needs the picture #{reference[0, 19]}…, which is not here. Put the file in beside the " \
              "others and try again.")
        end
      end
    end
  end
end
