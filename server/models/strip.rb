# frozen_string_literal: true

module Fobrel
  module Models
    # The painted preview of a preset's content, computed once.
    class Strip < Record
      # @param preset [Core::Preset::Preset]
      # @param shape [String] one of Core::Stroke::Strip::SHAPES
      # @return [String] a PNG
      # @raise [Core::Problem] when it cannot be painted
      def self.png_of(preset, shape)
        key = {fingerprint: preset.fingerprint, shape:, version: Core::Stroke::Strip::VERSION}
        where(key).pick(:png) || Core::Stroke::Strip.png(preset, assets: Asset::Bytes, shape:).tap { insert(key.merge(png: _1)) }
      end
    end
  end
end
