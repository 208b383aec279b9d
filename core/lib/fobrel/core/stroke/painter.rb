# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # Paints a preset along a movement.
      #
      #   painter = Painter.new(preset, assets: Preset::AssetFolder.new("parts"))
      #   painter.paint(SampleStroke.fetch("swell").samples, page: [700, 120]).to_png
      class Painter
        # Raised when something cannot be painted as asked.
        class CannotPaint < Problem; end

        # The artist's colour, where none is given: a dark ink.
        INK = Colour.parse("#1d2026")
        MOST_PIXELS = 40_000_000
        # Pixels that all dabs of a stroke lay together, at about 25 ns each: some ten seconds. A dab costs
        # as much as EACH pixels even where it is small; one in colour, or that moves what lies there,
        # three times as much.
        MOST_WORK = 400_000_000
        EACH = 2500
        IN_COLOUR = 3
        private_constant :EACH, :IN_COLOUR
        # Pixels of the tips and grains painted with last; a slider asks for the same ones again.
        DECODED = LruCache.new(24 * 1024 * 1024) { |frame| frame.planes.sum(&:byte_size) }
        private_constant :DECODED

        # @param preset [Preset::Preset]
        # @param assets [#fetch] from "sha256:…" to the bytes of a tip or grain
        # @param seed [Integer] for all that is left to chance
        def initialize(preset, assets: {}, seed: 1)
          @preset = preset
          @assets = assets
          @seed = seed
        end

        # @param samples [Samples] in page pixels
        # @param page [Array(Integer, Integer), nil] width and height in px; nil makes the page
        #   reach from its origin to the end of the stroke, or takes the ground's size
        # @param colour [Colour] the artist's colour
        # @param ground [Page, nil] what lies on the page before the stroke
        # @return [Painted]
        # @raise [CannotPaint, Dabs::TooMany, Preset::MissingNeed, Tip::Picture::Unreadable]
        def paint(samples, page: nil, colour: INK, ground: nil)
          path = Path.through(Smoothing.smooth(samples, @preset["stroke", "smoothing"]))
          dabs = Dabs.new(@preset).along(path, seed: @seed)
          tip = (@preset["method"] == "ribbon") ? nil : tip(dabs.map(&:size).max)
          width, height = page || (ground && [ground.width, ground.height]) || fitting(dabs)
          check(width, height, ground)
          check_work(dabs, tip, width, height)
          colour = fixed_colour || colour
          planes = planes(path, dabs, tip, width, height, colour, ground)
          Painted.new(planes:, dabs:, length: path.length, ground:, colour:, lays:, blend: @preset["paint", "blend"])
        end

        private

        def check(width, height, ground)
          if width * height > MOST_PIXELS
            raise CannotPaint,
              "A page of #{width} × #{height} px is too large to paint. At most #{MOST_PIXELS / 1_000_000} million " \
                "pixels fit."
          end
          return if ground.nil? || [ground.width, ground.height] == [width, height]
          raise CannotPaint,
            "The ground is #{ground.width} × #{ground.height} px, the page #{width} × #{height}. Give both the same " \
              "size."
        end

        def check_work(dabs, tip, width, height)
          return unless tip # a ribbon is laid once, however many dabs lead it
          work = dabs.sum { |dab|
            [dab.size, width].min * [dab.size, height].min + EACH
          } * (in_colour?(dabs, tip) ? IN_COLOUR : 1)
          return if work <= MOST_WORK
          raise CannotPaint,
            "This stroke would lay #{dabs.size} dabs, together about #{(work / 1e6).round} million pixels; at most " \
              "#{MOST_WORK / 1_000_000} million are painted. Nothing was changed. Widen the spacing, or lower the " \
              "count or the size."
        end

        def in_colour?(dabs, tip) = moves_paint? || tip.own_colours? || dabs.any?(&:shifted?)

        def planes(path, dabs, tip, width, height, colour, ground)
          return ribbon(path, dabs, width, height) unless tip
          if moves_paint?
            ground ||= Page.blank(width, height)
            own_paint = @preset["paint", "own_paint"]
            return WetLayer.new(ground.planes).lay(dabs, tip, grain(width, height), colour, own_paint)
          end
          if tip.own_colours? || dabs.any?(&:shifted?)
            return ColourLayer.new(width, height).lay(
              dabs,
              tip,
              grain(width, height),
              colour
            )
          end
          [Layer.new(width, height).lay(dabs, tip, grain(width, height))]
        end

        # A ribbon lies on the page as a whole, and so does its grain.
        def ribbon(path, dabs, width, height)
          drawing = frame(@preset.frames.first || shape_reference, dabs.map(&:size).max)
          ends = @preset["tip", "ends"].values_at("first", "last")
          planes = Ribbon.new(drawing, ends:).lay(path, dabs, width, height)
          grain = grain(width, height) or return planes
          whole = dabs.first.dup.tap { |dab| dab.x = dab.y = 0.0 }
          transmittance = grain.transmittance(whole, 0, 0, width, height)
          planes.map { _1 * transmittance }
        end

        # A smear, and wet dabs that pick up what lies under them.
        def moves_paint? = @preset["method"] == "smear" || @preset["paint", "mix"].positive?

        def lays
          return "instead" if moves_paint? && @preset["method"] != "ribbon"
          return "erase" if @preset["paint", "eraser"]
          @preset["extras", "behind"] ? "under" : "over"
        end

        def tip(greatest)
          tip = @preset["tip", "form"]
          crisp = @preset["tip", "hard_pixels"]
          return RoundTip.new(hardness: tip["hardness"], crisp:) if tip["kind"] == "round"
          names = (tip["kind"] == "shape") ? [shape_reference] : @preset.frames
          names.each { asset(_1) }
          own = tip["colours"] == "own"
          PictureTip.new(
            names: names.map {
              name(_1, greatest)
            },
            own:,
            crisp:
          ) { |index| frame(names[index], greatest) }
        end

        def shape_reference
          @preset["tip",
            "form",
            "asset"] || raise(
              CannotPaint,
              "“#{@preset.name}” is a ribbon and needs a drawing. Give it a picture tip or a shape."
            )
        end

        # An SVG is drawn at the size it is used at, so its content has a name for each.
        def name(reference, greatest) = shape? ? "#{reference}@#{Tip::Vector.side(greatest)}" : reference

        def shape? = @preset["tip", "form", "kind"] == "shape"

        def grain(width, height)
          surface = @preset["grain"] or return
          reference = surface["asset"]
          cover = decoded(reference, [reference, false]) { |bytes|
            Tip::Cover.from_file(bytes, name: "The grain of “#{@preset.name}”")
          }
          Grain.new(cover, surface, name: reference, page: [width, height])
        end

        def frame(reference, greatest)
          called = "A tip of “#{@preset.name}”"
          own = @preset["tip", "form", "colours"] == "own"
          decoded(reference, [name(reference, greatest), own]) do |bytes|
            if shape? then Tip::Vector.cover(bytes, Tip::Vector.side(greatest), name: called)
            elsif own then Tip::Paint.from_picture(Tip::Picture.read(bytes, name: called))
            else Tip::Cover.from_file(bytes, name: called)
            end
          end
        end

        # It is asked for even when its pixels are at hand: whether it may be used is the asset store's to say.
        def asset(reference)
          (@bytes ||= {})[reference] ||= @assets.fetch(reference) { raise Preset::MissingNeed.new(@preset, reference) }
        end

        def decoded(reference, key)
          bytes = asset(reference)
          DECODED.fetch(key) { yield bytes }
        end

        def fixed_colour
          value = @preset["paint", "colour", "value"]
          Colour.parse(value) if @preset["paint", "colour", "mode"] == "fixed"
        end

        def fitting(dabs)
          [
            dabs.map { _1.x + _1.size * Math.sqrt(0.5) + 1 },
            dabs.map {
              _1.y + _1.size * Math.sqrt(0.5) + 1
            }
          ].map { _1.max.ceil.clamp(1, 100_000) }
        end
      end
    end
  end
end
