# frozen_string_literal: true

module Fobrel
  module Models
    # A tag on a preset.
    class Tagging < Record
      belongs_to :tag
      belongs_to :preset
    end
  end
end
