# frozen_string_literal: true

module Fobrel
  module Models
    # One person's unsaved changes on a preset.
    class Draft < Record
      # Raised when what is to be saved is no more what the person saw.
      class Another < Core::Problem
        def initialize
          super(
            "This brush was tuned in another window at this moment, so nothing was saved. What was tuned is kept as " \
              "your draft. Look at it, and save once more."
          )
        end
      end

      belongs_to :person
      belongs_to :preset
      belongs_to :base_version, class_name: "Fobrel::Models::Version"

      # @return [Core::Preset::Preset]
      def value = Core::Preset::Preset.restore(document)

      # @return [Core::Preset::Merge] with what was saved meanwhile
      def merge
        Core::Preset::Merge.new(base: base_version.value, mine: value, theirs: preset.current_version.value)
      end

      # @param kept [String] the fingerprint of what the person saw
      # @param together [Hash{String => String}, nil] choices, where it is brought together with what was saved
      #   meanwhile
      # @return [Core::Preset::Preset]
      # @raise [Another, Core::Preset::Merge::Undecided]
      def as_seen(kept, together: nil)
        raise Another unless fingerprint == kept
        together ? merge.preset(together) : value
      end
    end
  end
end
