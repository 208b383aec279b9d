# frozen_string_literal: true

module Fobrel
  module Models
    # A numbered, saved state of a preset. It never changes.
    class Edition < Record
      belongs_to :preset
      belongs_to :person, optional: true
      has_one :edition_name

      def readonly? = persisted?

      # @return [Core::Preset::Preset]
      def value = Core::Preset::Preset.restore(document)
    end
  end
end
