# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # A pen's lean, between the two ways of telling it (W3C Pointer Events Level 3, "Converting
      # between tiltX / tiltY and altitudeAngle / azimuthAngle"). Tilts are degrees −90–90,
      # altitude is radians 0 (flat) to π/2 (upright), azimuth radians 0–2π, clockwise on the page.
      module Tilt
        # @return [Float]
        def self.altitude(tilt_x, tilt_y)
          return 0.0 if tilt_x.abs == 90 || tilt_y.abs == 90
          return Math::PI / 2 - radians(tilt_x.abs) if tilt_y.zero?
          return Math::PI / 2 - radians(tilt_y.abs) if tilt_x.zero?
          Math.atan(1 / Math.sqrt(Math.tan(radians(tilt_x))**2 + Math.tan(radians(tilt_y))**2))
        end

        # @return [Float]
        def self.azimuth(tilt_x, tilt_y)
          return (tilt_y <=> 0) % 4 * Math::PI / 2 if tilt_x.zero? && tilt_y != 0
          return (tilt_x < 0) ? Math::PI : 0.0 if tilt_y.zero?
          return 0.0 if tilt_x.abs == 90 || tilt_y.abs == 90
          Math.atan2(Math.tan(radians(tilt_y)), Math.tan(radians(tilt_x))) % (2 * Math::PI)
        end

        # @param altitude [Float]
        # @param azimuth [Float]
        # @return [Array(Float, Float)] tiltX and tiltY in degrees
        def self.from(altitude, azimuth)
          if altitude.zero?
            return [0, 1].map { |axis|
              [Math.cos(azimuth), Math.sin(azimuth)][axis].then { |side|
                (side.abs < 1e-12) ? 0.0 : 90.0 * (side <=> 0)
              }
            }
          end
          [Math.cos(azimuth), Math.sin(azimuth)].map { Math.atan(_1 / Math.tan(altitude)) * 180 / Math::PI }
        end

        def self.radians(degrees) = degrees * Math::PI / 180
        private_class_method :radians
      end
    end
  end
end
