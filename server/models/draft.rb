# frozen_string_literal: true

module Fobrel
  module Models
    # One person's unsaved changes on a preset.
    class Draft < Record
      belongs_to :person
      belongs_to :preset
      belongs_to :base_edition, class_name: "Fobrel::Models::Edition"
    end
  end
end
