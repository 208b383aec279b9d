# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # The preview of a preset: always the same trial stroke, on a page of a fixed shape. It has
      # no ground, so that it can be laid on any, except where a stroke shows only on one.
      module Strip
        # Raised by one whenever the same preset would give other pixels than before; pictures
        # kept under an older number are computed anew.
        VERSION = 2
        # Pixels: a long strip for lists, a taller one for looking closely.
        SHAPES = {"wall" => [700, 120], "peek" => [536, 240]}.freeze
        TRIAL = "swell"
        SEED = 1
        # Strip pixels for one of the preset's: drawn twice as fine, for sharp screens.
        DENSITY = 2
        # A brush taller than this share of the strip is shown smaller, as a whole.
        TALLEST = 0.62

        # @param preset [Preset::Preset]
        # @param assets [#fetch] from "sha256:…" to bytes
        # @param shape [String] one of SHAPES
        # @return [String] a PNG, see-through where nothing was prepared under the stroke
        # @raise [Painter::CannotPaint, Preset::MissingNeed, Tip::Picture::Unreadable]
        def self.png(preset, assets: {}, shape: "wall")
          page = SHAPES.fetch(shape)
          fitted = fit(preset, page[1] * TALLEST)
          painter = Painter.new(fitted, assets:, seed: SEED)
          painter.paint(TrialStroke.fetch(TRIAL).on(page), page:, ground: Ground.under(preset, *page)).to_png
        end

        # All that is measured in pixels changes together, so that the brush keeps its look.
        def self.fit(preset, most)
          factor = [DENSITY, most / greatest(preset)].min
          size = preset["mark", "size"].transform_values { (_1 * factor).clamp(0.5, 5000) }
          changes = {"mark" => preset["mark"].merge("size" => size)}
          surface = preset["surface"]
          changes["surface"] = surface.merge("scale" => (surface["scale"] * factor).clamp(0.05, 20)) if surface
          Preset::Preset.restore(preset.to_h.merge(changes))
        end

        def self.greatest(preset)
          responses = preset["response"].select { _1["drives"] == "size" }
          widest = responses.map { |r| [r.fetch("from", 0.0), r.fetch("to", 1.0)].max }.inject(1.0, :*)
          size = preset["mark", "size"]
          (size["base"] * widest).clamp(size["least"], [size["most"], size["least"]].max)
        end
        private_class_method :fit, :greatest
      end
    end
  end
end
