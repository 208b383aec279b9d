# frozen_string_literal: true

module Fobrel
  module Models
    # A brush that came by following, with what it was when it came: the common ground of both sides' changes.
    class FollowedBrush < Record
      belongs_to :follow
      belongs_to :preset

      # @return [Core::Preset::Preset] as it came
      def value = Core::Preset::Preset.restore(base)
    end
  end
end
