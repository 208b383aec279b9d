# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # Paints a preset along a movement.
      #
      #   painter = Painter.new(preset, assets: Preset::AssetFolder.new("parts"))
      #   painter.paint(TrialStroke.fetch("swell").samples, page: [700, 120]).to_png
      class Painter
        # Raised when a preset asks for something this version cannot paint.
        class CannotPaint < Problem; end

        # The artist's colour, where none is given: a dark ink.
        INK = Colour.parse("#1d2026")
        MOST_PIXELS = 40_000_000
        # Pixels of the tips and grains painted with last; a slider asks for the same ones again.
        DECODED = Recent.new(48)
        private_constant :DECODED

        # @param preset [Preset::Preset]
        # @param assets [#fetch] from "sha256:…" to the bytes of a tip or grain
        # @param seed [Integer] for all that is left to chance
        # @raise [CannotPaint, Preset::MissingNeed, Tip::Picture::Unreadable]
        def initialize(preset, assets: {}, seed: 1)
          @preset = preset
          @assets = assets
          @seed = seed
          return if preset["method"] == "dabs" && preset["mark", "tip", "kind"] != "shape"
          raise CannotPaint, "“#{preset.name}” is built as #{preset["method"]} with a #{preset["mark", "tip", "kind"]} tip. " \
            "This version paints round and picture tips as dabs."
        end

        # @param samples [Samples] in page pixels
        # @param page [Array(Integer, Integer), nil] width and height in px; nil makes the page
        #   reach from its origin to the end of the stroke
        # @param colour [Colour] the artist's colour
        # @return [Painted]
        # @raise [CannotPaint, Dabs::TooMany]
        def paint(samples, page: nil, colour: INK)
          path = Path.through(samples)
          dabs = Dabs.new(@preset).along(path, seed: @seed)
          tip = tip(dabs.map(&:size).max)
          width, height = page || fitting(dabs, tip)
          if width * height > MOST_PIXELS
            raise CannotPaint, "A page of #{width} × #{height} px is too large to paint. At most #{MOST_PIXELS / 1_000_000} million pixels fit."
          end
          layer = Layer.new(width, height).lay(dabs, tip, grain)
          Painted.new(alpha: layer.alpha, dabs:, length: path.length, colour: fixed_colour || colour)
        end

        private

        def tip(greatest)
          tip = @preset["mark", "tip"]
          crisp = @preset["mark", "crisp"]
          return RoundTip.new(hardness: tip["hardness"], crisp:) if tip["kind"] == "round"
          covers = @preset.frames.map { cover(_1, "A tip of “#{@preset.name}”") }
          PictureTip.new(covers, greatest:, crisp:)
        end

        def grain
          surface = @preset["surface"] or return
          Grain.new(cover(surface["asset"], "The grain of “#{@preset.name}”"), surface)
        end

        # The asset is asked for even when its pixels are at hand: whether it may be used is
        # the asset store's to say.
        def cover(reference, name)
          bytes = @assets.fetch(reference) { raise Preset::MissingNeed.new(@preset, reference) }
          DECODED.fetch(reference) { Tip::Cover.from_file(bytes, name:) }
        end

        def fixed_colour
          value = @preset["pigment", "colour", "value"]
          Colour.parse(value) if @preset["pigment", "colour", "mode"] == "fixed"
        end

        def fitting(dabs, tip)
          [dabs.map { _1.x + tip.reach(_1) }, dabs.map { _1.y + tip.reach(_1) }].map { [_1.max.ceil, 1].max }
        end
      end
    end
  end
end
