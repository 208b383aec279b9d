# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # A page on which one brush has painted several strokes, one over the other. What lies there
      # stays in full precision from stroke to stroke, so that the faintest paint adds up.
      #
      #   pad = Pad.new(preset, page: [300, 240], assets:)
      #   pad.paint([Pad::Movement.new(samples: samples, colour: ink)]).to_png
      class Pad
        # One stroke: along what, in which of the artist's colours, by whose adjustments (nil: as it is).
        Movement = Struct.new(:samples, :colour, :adjustments, keyword_init: true) do
          # @return [String] the same for strokes that paint the same
          def key
            [
              samples.columns.values.flatten.pack("G*"),
              colour.parts.pack("G*"),
              adjustments&.settings.to_json
            ].join("|")
          end
        end

        # Raised when more is asked for than a pad holds.
        class TooMany < Problem; end

        MOST = 400
        # Pages as they lay after a stroke: the next stroke, or a stroke taken back, begins there.
        LAID = LruCache.new(48 * 1024 * 1024) { |page| page.planes.sum(&:byte_size) }
        private_constant :LAID

        # @return [String] a PNG of what lies on the pad; as .new and #paint
        def self.png(preset, movements, **pad) = new(preset, **pad).paint(movements).to_png

        # @param preset [Preset::Preset]
        # @param page [Array(Integer, Integer)] width and height in px
        # @param ground [String, nil] one of Ground::NAMES that lies within the brush's reach
        # @param assets [#fetch] from "sha256:…" to bytes
        def initialize(preset, page:, ground: nil, assets: {})
          @preset = preset
          @page = page
          @ground = ground
          @assets = assets
          freeze
        end

        # @param movements [Array<Movement>] in the order they were made
        # @return [Page] what lies on the pad after all of them
        # @raise [TooMany] and as Painter#paint
        def paint(movements)
          if movements.size > MOST
            raise TooMany,
              "A pad holds #{MOST} strokes. Nothing was painted. Clear it and go on."
          end
          laid(movements, keys(movements))
        end

        private

        # What is kept under a name is painted with the same brush, on the same ground, after the
        # same strokes.
        def keys(movements)
          start = digest([@preset.fingerprint, *@page, @ground].join("|"))
          movements.each_with_object([start]) { |movement, all| all << digest(all.last + movement.key) }
        end

        def digest(text) = OpenSSL::Digest::SHA256.digest(text)

        # Goes back to the last stroke whose page is still known, and paints on from there; only
        # the end is kept, since strokes are added and taken back one by one.
        def laid(movements, keys)
          return blank if movements.empty?
          LAID.fetch(keys.last) do
            known = (movements.size - 1).downto(1).find { |count| LAID.key?(keys[count]) } || 0
            page = known.zero? ? blank : LAID.fetch(keys[known]) { laid(movements.first(known), keys.first(known + 1)) }
            movements.drop(known).inject(page) { |below, movement| stroke(movement, below) }
          end
        end

        def blank = (@ground == "painted") ? Ground.bars(*@page) : Page.blank(*@page)

        def stroke(movement, below)
          adjustments = movement.adjustments
          painter = Painter.new(adjustments ? adjustments.brush(@preset) : @preset, assets: @assets, seed: Strip::SEED)
          samples = adjustments ? adjustments.movement(movement.samples) : movement.samples
          painter.paint(samples, page: @page, colour: movement.colour, ground: below).page
        end
      end
    end
  end
end
