# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # The preview of a preset: always the same sample stroke, on a page of a fixed shape. It has
      # no ground, so that it can be laid on any, except where a stroke shows only on one.
      module Strip
        # Raised by one whenever the same preset would give other pixels than before; pictures
        # kept under an older number are computed anew.
        VERSION = 4
        # Pixels: a strip for lists, a taller one for looking closely, a long one for the Bench.
        SHAPES = {"list" => [700, 120], "peek" => [536, 240], "bench" => [1050, 93]}.freeze
        SAMPLE = "swell"
        SEED = 1
        # Strip pixels for one of the preset's: drawn finer, for sharp screens; less so on the
        # Bench, where a strip follows a slider.
        DENSITIES = {"list" => 2, "peek" => 2, "bench" => 1.5}.freeze
        # A brush taller than this share of the strip is shown smaller, as a whole.
        TALLEST = 0.62

        # @param preset [Preset::Preset]
        # @param assets [#fetch] from "sha256:…" to bytes
        # @return [String] a PNG, see-through where nothing was prepared under the stroke
        # @raise [Painter::CannotPaint, Preset::MissingNeed, Tip::Picture::Unreadable]
        def self.png(preset, assets: {}, **way) = paint(preset, assets:, **way).to_png

        # Does once what the first picture and the first stroke of a process would have to wait for: with a small tip
        # that nobody uses.
        #
        # @return [nil]
        def self.warm
          bytes = Vips::Image.grey(8, 8, uchar: true).pngsave_buffer
          name = "sha256:#{Sum.of(bytes)}"
          size = {"base" => 20.0, "minimum" => 1, "maximum" => 100}
          mark = {"form" => {"kind" => "picture", "frames" => [name]}, "size" => size}
          png(Preset::Preset.build("Warm", {"tip" => mark}), assets: {name => bytes}) && nil
        end

        # The strip as a stroke, on request painted in another than the usual way.
        #
        # @param shape [String] one of SHAPES
        # @param sample [SampleStroke] along which it is painted
        # @param colour [Colour] the artist's
        # @param ground [String, nil] one of Ground::NAMES; nil prepares what the stroke needs
        # @param size [Float, nil] px instead of the preset's own
        # @param adjustments [Adjustments] laid over the preset and the movement
        # @param beside [Float] the greatest size, px, of the brushes shown beside this one: all
        #   are brought down together, so that sizes can be compared
        # @return [Painted]
        def self.paint(
          preset, assets: {}, shape: "list", sample: SampleStroke.fetch(SAMPLE), colour: Painter::INK,
          ground: nil, size: nil, adjustments: Adjustments[{}], beside: 0
        )
          page = SHAPES.fetch(shape)
          preset = sized(preset, size) if size
          preset = adjustments.brush(preset)
          fitted = scale(preset, [1, full_size(shape) / [greatest(preset), beside].max].min * DENSITIES.fetch(shape))
          prepared = ground ? Ground.named(ground, *page) : Ground.under(preset, *page)
          Painter.new(fitted, assets:, seed: SEED).paint(
            adjustments.movement(sample.on(page)),
            page:,
            colour:,
            ground: prepared
          )
        end

        # A strip for screens that are not sharp, where it takes a quarter of the memory.
        #
        # @param png [String] a strip
        # @return [String] a PNG of half its width and height
        def self.half(png)
          image = Vips::Image.new_from_buffer(png, "")
          image.premultiply.shrink(2, 2).unpremultiply.cast(:uchar).copy(interpretation: :srgb).pngsave_buffer
        end

        # @param preset [Preset::Preset]
        # @param size [Float] px
        # @return [Preset::Preset] at this size, its limits widened to hold it
        def self.sized(preset, size)
          was = preset["tip", "size"]
          changed = {"base" => size, "minimum" => [was["minimum"], size].min, "maximum" => [was["maximum"], size].max}
          Preset::Preset.restore(preset.to_h.merge("tip" => preset["tip"].merge("size" => changed)))
        end

        # @param shape [String] one of SHAPES
        # @return [Float] px, up to which a brush is not brought down
        def self.full_size(shape) = SHAPES.fetch(shape)[1] * TALLEST / DENSITIES.fetch(shape)

        # @param preset [Preset::Preset]
        # @return [Float] the greatest size it paints at, px
        def self.greatest(preset)
          responses = preset["response"].select { _1["drives"] == "size" }
          widest = responses.map { |r| [r.fetch("from", 0.0), r.fetch("to", 1.0)].max }.inject(1.0, :*)
          size = preset["tip", "size"]
          (size["base"] * widest).clamp(size["minimum"], [size["maximum"], size["minimum"]].max)
        end

        # All that is measured in pixels changes together, so that the brush keeps its look.
        def self.scale(preset, factor)
          size = preset["tip", "size"].transform_values { (_1 * factor).clamp(0.5, 5000) }
          changes = {"tip" => preset["tip"].merge("size" => size)}
          surface = preset["grain"]
          changes["grain"] = surface.merge("scale" => (surface["scale"] * factor).clamp(0.05, 20)) if surface
          Preset::Preset.restore(preset.to_h.merge(changes))
        end

        private_class_method :scale
      end
    end
  end
end
