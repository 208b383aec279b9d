# frozen_string_literal: true

module Fobrel
  module Models
    # The painted preview of a preset's content, computed once.
    class Strip < Record
      # @param preset [Core::Preset::Preset]
      # @param shape [String] one of Core::Stroke::Strip::SHAPES
      # @return [String] a PNG
      # @raise [Core::Problem] when it cannot be painted
      def self.png_of(preset, shape) = png_for(preset.fingerprint, shape) { preset }

      # @param fingerprint [String]
      # @yieldreturn [Core::Preset::Preset] asked for only where the strip was never painted
      # @return [String] a PNG
      def self.png_for(fingerprint, shape)
        key = {fingerprint:, shape:, version: Core::Stroke::Strip::VERSION}
        where(key).pick(:png) || Core::Stroke::Strip.png(yield, assets: Asset::Bytes, shape:).tap do |png|
          likeness = (shape == "wall") ? {hash64: Core::Curation::Likeness.hash64(png), thumb: Core::Curation::Likeness.thumb(png)} : {hash64: nil, thumb: nil}
          insert(key.merge(png:, **likeness))
        end
      end
    end
  end
end
