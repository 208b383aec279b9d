# frozen_string_literal: true

require_relative "drawing"

module Fobrel
  module Demo
    # The studio's brushes, by category: what each is drawn with and how it behaves. All invented.
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
        def all = inks + dry_marks + hatches + washes + stamps + textures + hard_pixels + ribbons + garlands + reels + coloured + smears + erasers + glazes + shapes + hands

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
            brush("Breaker foam", tip("spatter", 39), 56, 0.2, TUMBLE, %w[sea], "Where the wave hits the brushes.", flow: 0.7, scatter: 0.5, colour: "#7d9aa3"),
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
            brush("Cracked brushes", tip("crack", 62), 56, 0.7, {"angle" => ["random", -40, 40]}, %w[texture stone], "Plaster that gave up."),
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

        def ribbons
          [
            brush("Braided line", band("braid", 101), 26, 0.5, {}, %w[rigging ribbon], "Three strands, however long the stroke.", method: "ribbon"),
            brush("Hawser", band("hawser", 102), 30, 0.5, {}, %w[rigging ribbon], "The heavy rope at the quay.", method: "ribbon"),
            brush("Anchor chain", band("chain", 103), 30, 0.5, {}, %w[rigging ribbon], "Six links, stretched along.", method: "ribbon"),
            brush("Wave foam", band("foam", 104), 40, 0.5, {"opacity" => ["pressure", 0.3, 1.0]}, %w[sea ribbon], "The edge of the tide.", method: "ribbon", colour: "#7d9aa3"),
            brush("Sable stroke", band("tapered", 105), 34, 0.5, {"size" => ["pressure", 0.5, 1.0]}, %w[lineart ribbon], "One brush hair drawing, bent.", method: "ribbon"),
            brush("Tram rails", band("rails", 106), 32, 0.5, {}, %w[lineart ribbon], "Down to the fish market.", method: "ribbon"),
            brush("Ivy on the brushes", band("vine", 107), 44, 0.5, {}, %w[ribbon], "Grows along the stroke.", method: "ribbon", colour: "#3c5b35"),
            brush("Driftwood", band("bark", 108), 36, 0.5, {"size" => ["pressure", 0.6, 1.0]}, %w[texture ribbon], "Grain that follows the bend.", method: "ribbon", colour: "#5c4632")
          ]
        end

        def garlands
          [
            brush("Signal lamps", tip("lantern", 111), 30, 1.4, {}, %w[night garland], "Hung at one distance, turned to the line.", method: "garland", colour: "#8c5a12"),
            brush("Bunting", tip("drop", 112), 26, 1.0, {}, %w[garland], "For the regatta.", method: "garland", angle: 180, colour: "#a3312f"),
            brush("Net floats", tip("pebble", 113), 20, 1.2, {"size" => ["random", 0.6, 1.0]}, %w[sea garland], "Along the top rope.", method: "garland"),
            brush("Herring line", tip("fish", 114), 38, 1.3, {"size" => ["pressure", 0.4, 1.0]}, %w[sea garland], "Smaller where the hand is light; the distance stays.", method: "garland", angle: 180),
            brush("Ladder rungs", tip("plank", 115), 34, 0.5, {}, %w[rigging garland], "Rungs across the line.", method: "garland", angle: 90),
            brush("Star chart", tip("star", 116), 20, 1.8, {"size" => ["random", 0.3, 1.0]}, %w[night garland], "A course by the stars.", method: "garland")
          ]
        end

        def reels
          [
            brush("Pebble beach", reel("pebble", 121..126), 26, 0.8, {"angle" => ["random", 0, 360], "size" => ["random", 0.4, 1.0]}, %w[stone reel], "Six stones, shuffled.", turn: "shuffled", scatter: 0.5),
            brush("Dune grass", reel("tuft", 127..130), 44, 0.35, {"size" => ["random", 0.6, 1.0]}, %w[reel], "Four tufts, shuffled.", turn: "shuffled", colour: "#4f6a2c"),
            brush("Roofline", reel("roof", 131..134), 44, 0.8, {}, %w[reel stamp], "Four houses in order.", turn: "in order"),
            brush("Fir ridge", reel("fir", 135..138), 48, 0.5, {"size" => ["random", 0.5, 1.0]}, %w[reel], "The hill behind the town.", turn: "shuffled", colour: "#27412f"),
            brush("Quay crowd", reel("figure", 139..142), 34, 0.6, {"size" => ["random", 0.8, 1.0]}, %w[reel stamp], "Four walkers in order.", turn: "in order"),
            brush("Ink, light to heavy", frames(%w[grit spatter sponge blot], 143), 40, 0.3, {}, %w[reel], "Pressure chooses the frame: from grit to a full blot.", turn: "pressure"),
            brush("Marks by direction", frames(%w[hatch long_hatch cross_hatch stipple], 147), 40, 0.7, {}, %w[reel], "The way the hand goes chooses the mark.", turn: "direction"),
            brush("Rain to hail", frames(%w[long_hatch stipple pebble], 151), 40, 0.7, {}, %w[reel weather], "Speed chooses the frame.", turn: "speed"),
            brush("Leaning reed", frames(%w[tuft kelp leaf_shape], 155), 44, 0.7, {}, %w[reel], "Tilt chooses the frame.", turn: "tilt", colour: "#4f6a2c"),
            brush("Printer's case", frames(%w[ring anchor star gull drop fish], 159), 30, 1.2, {}, %w[reel stamp], "Rows by pressure, columns in order.", turn: ["pressure", "in order"], columns: 3)
          ]
        end

        def coloured
          [
            brush("Buoys", coloured_tip("buoy", 171), 34, 1.4, {"size" => ["random", 0.6, 1.0]}, %w[stamp coloured], "Keeps its own red and white."),
            brush("Harbour pennant", coloured_tip("pennant", 172), 40, 1.2, {}, %w[stamp coloured], "Keeps its own colours."),
            brush("Lit windows", coloured_tip("lit_window", 173), 30, 1.2, {"size" => ["random", 0.7, 1.0]}, %w[stamp coloured night], "Somebody is still up.", scatter: 0.5),
            brush("Rowan", coloured_tip("rowan", 174), 38, 0.8, {"angle" => ["random", 0, 360]}, %w[stamp coloured], "Berries in the churchyard.", scatter: 0.3),
            brush("Starfish", coloured_tip("starfish", 175), 32, 1.3, {"angle" => ["random", 0, 72], "size" => ["random", 0.5, 1.0]}, %w[stamp coloured sea], "At low tide.", scatter: 0.6)
          ]
        end

        def smears
          [
            brush("Wet thumb", round(0.4), 44, 0.06, {}, %w[smear], "Only moves what is there.", method: "smear", mix: 0.12, own_paint: 0),
            brush("Palette edge", round(1), 36, 0.05, {}, %w[smear], "A knife that drags hard edges.", method: "smear", mix: 0.3, own_paint: 0, roundness: 0.3, angle: 70),
            brush("Rain on ink", tip("spatter", 183), 60, 0.12, {}, %w[smear weather], "Breaks wet ink open.", method: "smear", mix: 0.5, own_paint: 0),
            brush("Tide pull", tip("bristles", 184), 56, 0.04, FOLLOW, %w[smear sea], "Hairs that pull colour along.", method: "smear", mix: 0.08, own_paint: 0, angle: 90),
            brush("Loaded sable", round(0.6), 40, 0.06, {}, %w[smear], "Brings a little of its own.", method: "smear", mix: 0.25, own_paint: 0.25, colour: "#153f49"),
            brush("Milky wash", round(0.2), 52, 0.08, {}, %w[smear weather], "Wet dabs that take the ground with them.", mix: 0.2, own_paint: 0.4, colour: "#c8d4d6"),
            brush("Oil on water", round(0.8), 34, 0.06, {"hue" => ["distance", 0, 200]}, %w[smear], "Mixes, and changes colour on its way.", mix: 0.15, own_paint: 0.6, colour: "#a3312f")
          ]
        end

        def erasers
          [
            brush("Bread crumb", tip("sponge", 191), 44, 0.25, TUMBLE, %w[eraser], "Lifts charcoal in patches.", eraser: true),
            brush("Hard rubber", round(1), 20, 0.08, {}, %w[eraser], "A clean edge.", eraser: true),
            brush("Scraped highlight", tip("fan", 193), 34, 0.03, FOLLOW, %w[eraser], "Thirteen scratches back to the paper.", eraser: true, angle: 90),
            brush("Soft lift", round(0), 56, 0.08, FADE, %w[eraser], "Takes a wash down slowly.", eraser: true, flow: 0.2)
          ]
        end

        def glazes
          [
            brush("Shade, multiply", round(0.5), 50, 0.08, {}, %w[glaze], "Darkens what is there.", blend: "multiply", colour: "#8fa3b0"),
            brush("Lamplight, screen", round(0.1), 54, 0.1, FADE, %w[glaze night], "Lightens what is there.", blend: "screen", colour: "#b4701f"),
            brush("Storm light, overlay", round(0.3), 54, 0.08, {}, %w[glaze weather], "Harder shadows, harder light.", blend: "overlay", colour: "#c9b458"),
            brush("Moon, color dodge", round(0.2), 40, 0.1, FADE, %w[glaze night], "Burns through.", blend: "color-dodge", colour: "#7a8fb0", flow: 0.5),
            brush("Dusk, hue only", round(0.8), 48, 0.08, {}, %w[glaze], "Changes the hue and nothing else.", blend: "hue", colour: "#56507c"),
            brush("Bleached, luminosity", round(0.6), 44, 0.08, {}, %w[glaze], "Light from this, colour from below.", blend: "luminosity", colour: "#e0d8c8"),
            brush("Negative space", round(1), 34, 0.06, {"size" => ["pressure", 0.4, 1.0]}, %w[glaze], "Difference, for finding shapes.", blend: "difference", colour: "#f0e8d8"),
            brush("Underpainting", round(0.7), 52, 0.06, {}, %w[glaze], "Goes beneath what is on the layer.", under: true, colour: "#c9a25a"),
            brush("Chalk on slate", tip("chalk", 199), 36, 0.14, SOFT_SWELL, %w[texture night], "White, so it is shown on grey.", colour: "#f4f2ea")
          ]
        end

        def shapes
          [
            brush("Drawn sail", svg('<path d="M50 4 L92 84 L50 84 Z M46 14 L46 84 L12 84 Z M6 90 L96 90 L82 98 L20 98 Z"/>'), 44, 1.2, {}, %w[shape stamp], "Drawn at every size, never blurred."),
            brush("Compass rose", svg('<path d="M50 0 L58 42 L100 50 L58 58 L50 100 L42 58 L0 50 L42 42 Z"/>'), 38, 1.2, {"angle" => ["random", 0, 45]}, %w[shape stamp], "For the chart."),
            brush("Fish hook", svg('<path d="M60 4 v60 a22 22 0 0 1 -44 0 v-8 l12 10" fill="none" stroke="#000" stroke-width="9"/>'), 34, 1.1, {}, %w[shape stamp], "A row of hooks."),
            brush("Tile", svg('<path d="M4 4 h92 v50 a46 42 0 0 1 -92 0 z"/>'), 26, 0.98, FOLLOW, %w[shape texture], "Roof tiles, edge to edge."),
            brush("Cog", svg('<path fill-rule="evenodd" d="M43 2h14l3 13 10 4 12-7 9 10-7 11 4 10 12 4v13l-13 3-4 10 7 11-10 9-11-7-10 4-3 12H43l-3-13-10-4-11 7-10-9 7-11-4-10-12-4V41l13-3 4-10-7-11 10-9 11 7 10-4zM50 34a16 16 0 1 0 .1 0z"/>'), 32, 1.1, {"angle" => ["distance", 0, 360]}, %w[shape stamp], "Turns as it goes.")
          ]
        end

        def hands
          [
            brush("Calm liner", round(1), 12, 0.05, SWELL, %w[lineart], "Steadies a shaky hand.", smoothing: 0.7),
            brush("Flat of the pen", round(0.8), 40, 0.05, {"size" => ["tilt", 0.2, 1.0], "opacity" => ["tilt", 1.0, 0.4]}, %w[lineart], "Lean it for shade, lift it for line."),
            brush("Wind vane", round(1), 30, 0.05, {"angle" => ["tilt direction", 0, 360]}, %w[lineart], "The nib points where the pen leans.", roundness: 0.2),
            brush("Quick flick", round(0.9), 22, 0.05, {"size" => ["speed", 1.0, 0.15]}, %w[lineart], "Thin when fast."),
            brush("Running dry", tip("charcoal", 215), 34, 0.08, {"opacity" => ["distance", 1.0, 0.05]}, %w[texture], "The further, the less."),
            brush("Drying ink", round(0.7), 26, 0.06, {"flow" => ["time", 1.0, 0.1], "lightness" => ["time", 0, 0.3]}, %w[lineart], "Pales with the seconds.", colour: "#153f49"),
            brush("Autumn hedge", tip("leaf_shape", 217), 30, 0.5, {"angle" => ["random", 0, 360], "hue" => ["random", -30, 40], "lightness" => ["random", -0.1, 0.15]}, %w[stamp], "No two leaves alike.", colour: "#a0622a", scatter: 0.5),
            brush("Watercolour drift", round(0.2), 46, 0.08, {"hue" => ["pressure", 0, 28], "opacity" => ["pressure", 0.3, 0.9]}, %w[weather], "The hue turns as the hand presses.", flow: 0.3, colour: "#2f6f9a"),
            brush("Faded sailor", round(0.6), 36, 0.06, {"saturation" => ["pressure", -0.6, 0.1]}, %w[texture], "Colour comes with pressure.", colour: "#a3312f"),
            brush("Grain by hand", round(0.8), 46, 0.06, {"grain depth" => ["pressure", 1.0, 0.1]}, %w[texture], "Press to fill the paper's tooth.", grain: ["tooth", 1, 1.0]),
            brush("Weathervane roundness", round(1), 32, 0.05, {"roundness" => ["pressure", 0.15, 1.0]}, %w[lineart], "From a blade to a disc.", angle: 60),
            brush("Swarm", round(1), 5, 1.2, {"scatter" => ["pressure", 0.3, 1.0], "size" => ["random", 0.4, 1.0]}, %w[texture], "Six at each place, wider when pressed.", scatter: 5, count: 6),
            brush("One of a kind", tip("blot", 223), 30, 0.1, {"size" => ["stroke", 0.5, 1.0], "angle" => ["random", 0, 360]}, %w[lineart], "Every stroke has a size of its own.")
          ]
        end

        private

        def band(drawing, seed) = picture_tip([Drawing.band(drawing, seed)])

        def reel(drawing, seeds) = picture_tip(seeds.map { Drawing.tip(drawing, _1) })

        def frames(drawings, seed) = picture_tip(drawings.each_with_index.map { |drawing, i| Drawing.tip(drawing, seed + i) })

        def coloured_tip(drawing, seed) = picture_tip([Drawing.coloured(drawing, seed)]).tap { |kind, _| kind["colours"] = "own" }

        def picture_tip(pngs) = [{"kind" => "picture", "frames" => pngs.map { picture(_1).last }}, pngs]

        def svg(content)
          text = %(<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">#{content}</svg>)
          [{"kind" => "shape", "asset" => picture(text).last}, [text]]
        end

        def round(hardness) = [{"kind" => "round", "hardness" => hardness}, []]

        def tip(drawing, seed) = picture_tip([Drawing.tip(drawing, seed)])

        def picture(png) = [png, "sha256:#{Digest::SHA256.hexdigest(png)}"]

        def brush(name, tip, size, spacing, responses, tags, notes, angle: 0, roundness: 1, flow: 1, opacity: 1, scatter: 0, colour: nil, crisp: false, grain: nil,
          method: "dabs", turn: nil, columns: nil, mix: 0, own_paint: 1, eraser: false, blend: "normal", under: false, smoothing: 0, count: 1)
          kind, pictures = tip
          kind = kind.merge({"turn" => turn, "columns" => columns}.compact)
          surface = nil
          if grain
            png, asset = picture(Drawing.grain(grain[0], 90))
            surface = {"asset" => asset, "travel" => grain[1], "depth" => grain[2], "scale" => 0.5}
            pictures += [png]
          end
          settings = {
            "method" => method,
            "tip" => {"form" => kind, "size" => {"base" => size}, "angle" => angle, "roundness" => roundness, "hard_pixels" => crisp},
            "stroke" => {"spacing" => spacing, "scatter" => {"across" => scatter, "along" => scatter / 2.0}, "marks_per_step" => count, "smoothing" => smoothing},
            "response" => responses.map { |drives, (by, from, to, curve)| {"drives" => drives, "by" => by, "from" => from, "to" => to, "curve" => curve || [[0, 0], [1, 1]]} },
            "grain" => surface,
            "paint" => {"flow" => flow, "opacity" => opacity, "mix" => mix, "own_paint" => own_paint, "eraser" => eraser, "blend" => blend, "colour" => colour ? {"mode" => "fixed", "value" => colour} : {"mode" => "artist"}},
            "extras" => {"behind" => under},
            "about" => {"author" => "Maren Oake", "licence" => "CC-BY-4.0", "notes" => notes}
          }
          Brush.new(name:, settings:, tags:, notes:, pictures:)
        end
      end
    end
  end
end
