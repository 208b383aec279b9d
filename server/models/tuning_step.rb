# frozen_string_literal: true

module Fobrel
  module Models
    # What lay on a person's Bench after one change.
    class TuningStep < Record
      belongs_to :tuning

      # @return [Core::Preset::Preset]
      def value = Core::Preset::Preset.restore(document)

      # Whether it is the same but for a new name, which is no tuning.
      #
      # @param other [Core::Preset::Preset]
      def like?(other) = Core::Preset::Preset.restore(document.merge("name" => other.name)).alike?(other)
    end
  end
end
