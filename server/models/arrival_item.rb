# frozen_string_literal: true

module Fobrel
  module Models
    # One thing in an arrival: a preset, or what is wrong with it.
    class ArrivalItem < Record
      belongs_to :arrival

      # @return [Core::Preset::Preset]
      def value = Core::Preset::Preset.restore(document)
    end
  end
end
