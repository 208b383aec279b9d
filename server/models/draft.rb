# frozen_string_literal: true

module Fobrel
  module Models
    # One person's unsaved changes on a preset.
    class Draft < Record
      belongs_to :person
      belongs_to :preset
      belongs_to :base_edition, class_name: "Fobrel::Models::Edition"

      # @return [Core::Preset::Preset]
      def value = Core::Preset::Preset.restore(document)
    end
  end
end
