# frozen_string_literal: true

module Fobrel
  module Core
    module Curation
      # Brings a brush's sizes in line with a canvas: nothing it paints is larger than a share of
      # the canvas's short side. A received stamp is often far too big for a small canvas.
      module CanvasFit
        # @param preset [Preset::Preset]
        # @param width [Numeric] of the canvas, px
        # @param height [Numeric] px
        # @param share [Float] 0–1 of the short side
        # @return [Preset::Preset] the same one where it fits already
        def self.of(preset, width:, height:, share:)
          limit = ([width, height].min * share).round(1).clamp(0.5, 5000.0)
          size = preset["tip", "size"]
          fitted = {
            "base" => [size["base"], limit].min,
            "minimum" => [size["minimum"], limit].min,
            "maximum" => [size["maximum"], limit].min
          }
          return preset if size.all? { |key, value| fitted.fetch(key, value) == value }
          changes = fitted.map { |key, value| Preset::Changes::Change.new(["tip", "size", key], size[key], value) }
          Preset::Changes.new(changes).apply(preset)
        end
      end
    end
  end
end
