# frozen_string_literal: true

require_relative "drawing"

module Fobrel
  module Demo
    # The studio's brushes, by family: what each is drawn with and how it behaves. All invented.
    module Brushes
      # One brush before it is a preset: its words, its settings, its tags, the pictures it needs.
      Brush = Struct.new(:name, :settings, :tags, :notes, :pictures, keyword_init: true)

      SWELL = {"size" => ["pressure", 0.12, 1.0]}.freeze
      SOFT_SWELL = {"size" => ["pressure", 0.5, 1.0], "opacity" => ["pressure", 0.2, 1.0]}.freeze
      FADE = {"opacity" => ["pressure", 0.1, 1.0]}.freeze
      TUMBLE = {"size" => ["pressure", 0.5, 1.0], "angle" => ["random", 0, 360]}.freeze
      FOLLOW = {"angle" => ["direction", 0, 360]}.freeze

      class << self
        # @return [Array<Brush>] in the order they are made
        def all = inks + dry_marks + hatches + washes + stamps + textures + hard_pixels

        def inks
          [
            brush("Quay line", round(1), 15, 0.06, SWELL, %w[lineart], "The house line for everything built by people."),
            brush("Chart nib", tip("nib", 3), 22, 0.05, {"size" => ["pressure", 0.5, 1.0]}, %w[lineart], "Held flat, as for lettering.", angle: 35),
            brush("Tide line", round(1), 12, 0.05, {"size" => ["pressure", 0.02, 1.0], "opacity" => ["pressure", 0.6, 1.0]}, %w[lineart sea], "Runs out to nothing.", colour: "#153f49"),
            brush("Bollard", round(1), 30, 0.08, {}, %w[lineart flat], "One width, whatever the hand does."),
            brush("Splice pen", round(0.9), 7, 0.1, {"size" => ["pressure", 0.4, 1.0]}, %w[lineart rigging], "Thin ropes, far away."),
            brush("Mast contour", round(1), 20, 0.05, {"size" => ["pressure", 0.3, 1.0, [[0, 0], [0.5, 0.12], [1, 1]]]}, %w[lineart rigging], "Stays thin until pressed hard."),
            brush("Old fender", tip("blot", 5), 26, 0.09, TUMBLE, %w[lineart], "A line with torn edges."),
            brush("Reed quill", round(1), 24, 0.04, SWELL, %w[lineart], "Broad and flat, turned a little.", roundness: 0.25, angle: 40),
            brush("Wet rope line", tip("bristles", 7), 24, 0.05, {"size" => ["pressure", 0.6, 1.0]}.merge(FOLLOW), %w[lineart rigging], "Splits into hairs.", angle: 90),
            brush("Ink rake", tip("fan", 9), 30, 0.03, FOLLOW.merge(FADE), %w[lineart], "Thirteen parallel hairs.", angle: 90),
            brush("Gull feather", round(0.6), 18, 0.05, SWELL.merge(FADE), %w[lineart sky], "Soft at both ends."),
            brush("Harbour sign", round(1), 34, 0.05, {}, %w[lineart flat], "For painted letters on walls.", roundness: 0.35, colour: "#7a3b2a")
          ]
        end

        def dry_marks
          [
            brush("Slate chalk", tip("chalk", 11), 34, 0.12, SOFT_SWELL, %w[texture stone], "Chalk on a school slate."),
            brush("Driftwood charcoal", tip("charcoal", 12), 40, 0.08, SOFT_SWELL, %w[texture], "Rich and uneven."),
            brush("Logbook pencil", tip("pencil", 13), 10, 0.15, FADE.merge(SWELL), %w[lineart], "For notes in the margin."),
            brush("Salt crayon", tip("chalk", 14), 28, 0.3, TUMBLE, %w[texture sea], "Breaks up quickly."),
            brush("Sandbar", tip("grit", 15), 46, 0.2, TUMBLE, %w[texture], "Dry sand, blown.", scatter: 0.3),
            brush("Barnacle", tip("spatter", 16), 44, 0.5, TUMBLE, %w[texture sea], "Clumps below the water line."),
            brush("Soot", tip("sponge", 17), 42, 0.25, TUMBLE.merge(FADE), %w[texture night], "Chimneys and lamps.", flow: 0.6),
            brush("Dry sail", tip("bristles", 18), 48, 0.04, FOLLOW.merge(FADE), %w[texture], "Bristles that catch the cloth.", angle: 90, flow: 0.5, grain: ["weave", 1, 0.8]),
            brush("Rusty hinge", tip("sponge", 19), 30, 0.2, TUMBLE, %w[texture], "Rust in the seams.", colour: "#8a4a22"),
            brush("Lime wash", tip("chalk", 20), 58, 0.1, FADE, %w[texture stone], "Old whitewash, seen from near.", flow: 0.35)
          ]
        end

        def hatches
          [
            brush("Rain hatch", tip("long_hatch", 21), 44, 0.5, FADE, %w[weather], "Slanted rain.", angle: 62),
            brush("Hull hatch", tip("hatch", 22), 34, 0.55, {"size" => ["pressure", 0.7, 1.0]}, %w[lineart], "Shade below the rail."),
            brush("Net shade", tip("cross_hatch", 23), 36, 0.7, {}, %w[lineart rigging], "Crossed lines for deep shade."),
            brush("Pier shadow", tip("hatch", 24), 46, 0.3, FADE, %w[lineart night], "Closes up when pressed.", angle: 90),
            brush("Drizzle", tip("stipple", 25), 44, 0.6, TUMBLE, %w[weather], "Fine dots.", scatter: 0.4),
            brush("Storm slant", tip("long_hatch", 26), 60, 0.28, {"opacity" => ["pressure", 0.1, 0.9]}, %w[weather night], "Dense rain, seen against a lamp.", angle: 75, colour: "#3b4c5a"),
            brush("Woodcut", tip("hatch", 27), 40, 0.4, FOLLOW, %w[lineart], "Lines that follow the stroke."),
            brush("Stipple pen", tip("stipple", 28), 24, 0.9, TUMBLE, %w[lineart], "Dots for soft shade.")
          ]
        end

        def washes
          [
            brush("Harbour fog", round(0), 44, 0.08, {"size" => ["pressure", 0.6, 1.0]}, %w[weather], "Layered fog between the quay and the boats. Keep it large; build up in three passes.", flow: 0.07, colour: "#53656f"),
            brush("Wet slate", tip("bristles", 31), 40, 0.05, FOLLOW, %w[weather stone], "Wet stone in streaks.", flow: 0.22, angle: 90, colour: "#2b4a58"),
            brush("Lantern bloom", round(0.1), 36, 0.3, {"opacity" => ["pressure", 0.2, 1.0]}, %w[night], "A glow to lay over everything.", flow: 0.22, colour: "#b4701f"),
            brush("Low cloud", tip("cloud", 33), 60, 0.14, TUMBLE, %w[weather sky], "Ragged edges.", flow: 0.16, colour: "#5b6874"),
            brush("Sea mist", tip("fog", 34), 62, 0.1, TUMBLE, %w[weather sea], "Almost nothing, many times.", flow: 0.06, colour: "#6f8790"),
            brush("Puddle edge", tip("wet_edge", 35), 44, 0.3, {"size" => ["pressure", 0.7, 1.0]}, %w[weather], "Dries with a rim.", flow: 0.35, colour: "#3d5560"),
            brush("Dusk glaze", round(0.2), 56, 0.06, {}, %w[night sky], "Flat, never darker than a third.", opacity: 0.33, colour: "#56507c"),
            brush("Tea wash", round(0.7), 46, 0.08, FADE, %w[texture], "For old paper.", flow: 0.3, opacity: 0.6, colour: "#8b6a3d", grain: ["tooth", 1, 0.6]),
            brush("Breaker foam", tip("spatter", 39), 56, 0.2, TUMBLE, %w[sea], "Where the wave hits the wall.", flow: 0.7, scatter: 0.5, colour: "#7d9aa3"),
            brush("Smoke over roofs", tip("cloud", 40), 54, 0.3, TUMBLE.merge(FADE), %w[weather night], "Rises and thins.", flow: 0.3, scatter: 0.2)
          ]
        end

        def stamps
          [
            brush("Mooring ring", tip("ring", 41), 26, 0.85, {"size" => ["pressure", 0.7, 1.0]}, %w[rigging], "Ring after ring makes a chain."),
            brush("Laid rope", tip("rope", 42), 30, 0.86, FOLLOW, %w[rigging], "One piece of rope, repeated along the line."),
            brush("Reef knot", tip("knot", 43), 34, 1.15, FOLLOW, %w[rigging], "Tied at even distances."),
            brush("Anchor stamp", tip("anchor", 44), 40, 1.3, {}, %w[stamp], "For the chandler's sign."),
            brush("Lantern row", tip("lantern", 45), 40, 1.2, {}, %w[stamp night], "A promenade in one stroke.", colour: "#8c5a12"),
            brush("Gulls", tip("gull", 46), 38, 1.1, {"size" => ["random", 0.45, 1.0]}, %w[stamp sky], "A flock, near and far.", scatter: 0.6),
            brush("Raindrops", tip("drop", 47), 20, 1.4, {"size" => ["random", 0.4, 1.0]}, %w[stamp weather], "On glass.", scatter: 1.0, colour: "#35616d"),
            brush("Herring", tip("fish", 48), 40, 1.1, FOLLOW, %w[stamp sea], "A shoal that follows the hand.", angle: 180),
            brush("Kelp bed", tip("kelp", 49), 56, 0.55, {"size" => ["random", 0.6, 1.0], "angle" => ["random", -25, 25]}, %w[stamp sea], "Stands in the current.", colour: "#2f4a2c"),
            brush("Bay leaf", tip("leaf_shape", 50), 34, 0.75, {"angle" => ["random", 0, 360], "size" => ["random", 0.5, 1.0]}, %w[stamp], "The garland over the inn's door.", colour: "#3c5b35"),
            brush("Pole star", tip("star", 51), 26, 1.3, {"size" => ["random", 0.3, 1.0], "angle" => ["random", 0, 72]}, %w[stamp night], "A clear night, before the storm.", scatter: 1.2),
            brush("Deck plank", tip("plank", 52), 46, 0.97, FOLLOW, %w[stamp], "A deck, plank by plank."),
            brush("Hull rivets", tip("rivet", 53), 16, 1.6, FOLLOW, %w[stamp rigging], "In a row along the seam."),
            brush("Wave crest", tip("wave", 54), 44, 0.96, FOLLOW, %w[stamp sea], "Closes into one long wave.")
          ]
        end

        def textures
          [
            brush("Cobblestones", tip("cobble", 61), 62, 0.55, TUMBLE, %w[texture stone], "The quay from above."),
            brush("Cracked wall", tip("crack", 62), 56, 0.7, {"angle" => ["random", -40, 40]}, %w[texture stone], "Plaster that gave up."),
            brush("Fish scales", tip("scales", 63), 52, 0.6, FOLLOW, %w[texture sea], "Also good for roof tiles."),
            brush("Fishing net", tip("net", 64), 58, 0.95, FOLLOW, %w[texture rigging], "Hung up to dry."),
            brush("Wet stone", round(0.4), 56, 0.1, SOFT_SWELL, %w[texture stone], "Stone that shines.", flow: 0.5, grain: ["stone", 1, 0.95], colour: "#37424a"),
            brush("Sailcloth", round(0.8), 54, 0.08, {}, %w[texture], "Woven, evenly filled.", grain: ["weave", 1, 0.9]),
            brush("Harbour plank", round(0.9), 50, 0.08, FADE, %w[texture], "The grain stays on the page.", grain: ["grain_wood", 1, 0.9], colour: "#5c4632"),
            brush("Dragged tar", round(0.8), 44, 0.05, FADE, %w[texture night], "The grain is dragged along, so it streaks.", flow: 0.4, grain: ["stone", 0.05, 1])
          ]
        end

        def hard_pixels
          [
            brush("Pixel square", tip("pixel", 71), 12, 0.5, {}, %w[crisp flat], "For the arcade on the pier.", crisp: true),
            brush("Pixel round", round(1), 18, 0.2, {"size" => ["pressure", 0.3, 1.0]}, %w[crisp lineart], "No half-covered pixels.", crisp: true),
            brush("Pixel plus", tip("plus", 73), 24, 1.2, {}, %w[crisp stamp], "A row of plus signs.", crisp: true),
            brush("Chequer flag", tip("checker", 74), 40, 1.0, {}, %w[crisp stamp], "For the regatta.", crisp: true),
            brush("Pixel grit", tip("grit", 75), 40, 0.5, TUMBLE, %w[crisp texture], "Hard specks.", crisp: true, scatter: 0.4),
            brush("Pixel rain", tip("long_hatch", 76), 44, 0.7, {}, %w[crisp weather], "Hard slanted lines.", crisp: true, angle: 60)
          ]
        end

        private

        def round(hardness) = [{"kind" => "round", "hardness" => hardness}, []]

        def tip(drawing, seed) = picture(Drawing.tip(drawing, seed)).then { |png, asset| [{"kind" => "picture", "frames" => [asset]}, [png]] }

        def picture(png) = [png, "sha256:#{Digest::SHA256.hexdigest(png)}"]

        def brush(name, tip, size, spacing, responses, tags, notes, angle: 0, roundness: 1, flow: 1, opacity: 1, scatter: 0, colour: nil, crisp: false, grain: nil)
          kind, pictures = tip
          surface = nil
          if grain
            png, asset = picture(Drawing.grain(grain[0], 90))
            surface = {"asset" => asset, "travel" => grain[1], "depth" => grain[2], "scale" => 0.5}
            pictures += [png]
          end
          settings = {
            "mark" => {"tip" => kind, "size" => {"base" => size}, "angle" => angle, "roundness" => roundness, "crisp" => crisp},
            "trail" => {"spacing" => spacing, "scatter" => {"across" => scatter, "along" => scatter / 2.0}},
            "response" => responses.map { |drives, (by, from, to, curve)| {"drives" => drives, "by" => by, "from" => from, "to" => to, "curve" => curve || [[0, 0], [1, 1]]} },
            "surface" => surface,
            "pigment" => {"flow" => flow, "opacity" => opacity, "colour" => colour ? {"mode" => "fixed", "value" => colour} : {"mode" => "artist"}},
            "about" => {"author" => "Maren Oake", "licence" => "CC-BY-4.0", "notes" => notes}
          }
          Brush.new(name:, settings:, tags:, notes:, pictures:)
        end
      end
    end
  end
end
