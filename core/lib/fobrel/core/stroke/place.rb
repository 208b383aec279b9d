# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # A place on a path: where it lies, and what the pen felt there.
      #
      # - `distance` pixels along the path
      # - `x`, `y` page pixels
      # - `direction` of the way, radians, counter-clockwise, 0 to the right
      # - `pressure` 0–1, `tilt_x` and `tilt_y` degrees, `t` milliseconds
      Place = Struct.new(:distance, :x, :y, :direction, :pressure, :tilt_x, :tilt_y, :t)
    end
  end
end
