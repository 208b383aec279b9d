# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # Computed shapes: each with its parameters, joined, cut out of each other, repeated around the middle. Kept as an
      # SVG that says what it was made of.
      #
      #   figure = Figure[[{"shape" => "star", "points" => 7}, {"shape" => "polygon", "corners" => 24, "size" => 0.3,
      #                     "cut" => true}]]
      #   figure.svg   # "<svg …>"
      class Figure
        # Raised in one sentence where a shape cannot be drawn.
        class Unknown < Problem; end

        # A parameter: what it is called, its least, greatest and usual value, and its unit.
        Parameter = Struct.new(:name, :title, :least, :most, :usual, :unit)
        def self.parameter(name, title, range, usual, unit = nil)
          Parameter.new(name, title, range.min, range.max, usual, unit)
        end
        private_class_method :parameter

        SHAPES = {
          "polygon" => [parameter("corners", "Corners", 3..60, 6)],
          "star" => [
            parameter("points", "Points", 3..40, 5),
            parameter("inner", "Inner radius", 0.05..0.98, 0.45, "%")
],
          "ring" => [parameter("inner", "Inner radius", 0.05..0.98, 0.7, "%")],
          "arrow" => [
            parameter("head", "Head", 0.1..0.9, 0.45, "%"),
            parameter("shaft", "Shaft", 0.05..1.0, 0.35, "%")
],
          "leaf" => [
            parameter("width", "Width", 0.05..1.0, 0.4, "%"),
            parameter("widest", "Widest at", 0.1..0.9, 0.45, "%"),
            parameter("stalk", "Stalk", 0.0..0.5, 0.15, "%")
          ],
          "taper" => [
            parameter("width", "Width", 0.02..1.0, 0.2, "%"),
            parameter("widest", "Widest at", 0.0..1.0, 0.5, "%"),
            parameter("straight", "One side straight", 0.0..1.0, 0.0, "%"),
            parameter("blunt", "Blunt ends", 0.0..1.0, 0.0, "%")
          ],
          "splatter" => [
            parameter("drops", "Drops", 3..300, 60),
            parameter("spread", "Spread", 0.1..1.0, 0.8, "%"),
            parameter("seed", "Another throw", 1..999, 1)
          ],
          "bristles" => [
            parameter("rows", "Rows", 1..12, 3),
            parameter("hairs", "Hairs in a row", 2..60, 18),
            parameter("loose", "Looseness", 0.0..1.0, 0.35, "%"),
            parameter("seed", "Another throw", 1..999, 1)
          ],
          "hatch" => [
            parameter("lines", "Lines", 2..60, 9),
            parameter("thick", "Thickness", 0.05..0.95, 0.4, "%"),
            parameter("cross", "Crossed", 0..1, 0)
          ],
          "noise" => [
            parameter("fine", "Fineness", 2..120, 24),
            parameter("share", "Share that paints", 0.05..0.95, 0.5, "%"),
            parameter("seed", "Another throw", 1..999, 1)
          ]
        }.freeze

        # What every shape has.
        COMMON = [
          parameter("x", "Across", -1.0..1.0, 0.0, "%"),
          parameter("y", "Down", -1.0..1.0, 0.0, "%"),
          parameter("size", "Size", 0.02..1.0, 1.0, "%"),
          parameter("turn", "Turn", -360..360, 0, "°"),
          parameter("squeeze", "Squeezed", 0.05..1.0, 1.0, "%"),
          parameter("repeat", "Repeated around", 1..60, 1)
        ].freeze

        # Shapes in one figure.
        MOST = 24
        # Its own units: a figure lies within ±RADIUS.
        RADIUS = 500
        # It is drawn this large as a picture, px.
        SIDE = 1000

        def self.[](shapes) = new(shapes)

        # @return [Array<Hash>] with all their parameters
        attr_reader :shapes

        # @param shapes [Array<Hash>] each "shape" (of SHAPES), its parameters, those of COMMON, and "cut": taken out of
        #   what was drawn before it
        # @raise [Unknown]
        def initialize(shapes)
          raise Unknown, "A figure has one to #{MOST} shapes." unless shapes.size.between?(1, MOST)
          @shapes = shapes.map { complete(_1) }.freeze
          freeze
        end

        # @return [String] a plain SVG, black on nothing
        def svg
          [
            %(<svg xmlns="http://www.w3.org/2000/svg" viewBox="#{-RADIUS} #{-RADIUS} #{2 * RADIUS} #{2 * RADIUS}" ) +
              %(width="#{SIDE}" height="#{SIDE}">),
            "<desc>#{CGI.escapeHTML(JSON.generate(shapes))}</desc>",
            cutting? ? masked : shapes.map { drawn(_1, "#000") }.join,
            "</svg>"
          ].join
        end

        # @return [Numo::SFloat] SIDE × SIDE, cover 0–1
        def cover
          alpha = Vips::Image.svgload_buffer(svg)[3]
          Numo::SFloat.cast(Numo::UInt8.from_binary(alpha.write_to_memory).reshape(SIDE, SIDE)) / 255
        end

        # @return [String] a PNG, black on white
        def png = Cover[cover].to_png

        private

        def cutting? = shapes.any? { _1["cut"] }

        # White lets through, black does not, in the order that they were drawn in.
        def masked
          marks = shapes.map { drawn(_1, _1["cut"] ? "#000" : "#fff") }.join
          room = %(x="#{-RADIUS}" y="#{-RADIUS}" width="#{2 * RADIUS}" height="#{2 * RADIUS}")
          %(<mask id="m" maskUnits="userSpaceOnUse" #{room}>#{marks}</mask><rect #{room} fill="#000" mask="url(#m)"/>)
        end

        def complete(words)
          own = SHAPES[words["shape"]] or
            raise Unknown, "There is no shape “#{words["shape"].to_s[0, 40]}”. Take one of #{SHAPES.keys.join(", ")}."
          values = (own + COMMON).to_h do |one|
            value = words.fetch(one.name, one.usual)
            raise Unknown, "#{one.title} is a number." unless value.is_a?(Numeric) && value.to_f.finite?
            value = value.clamp(one.least, one.most)
            [one.name, one.usual.is_a?(Integer) ? value.round : value]
          end
          {"shape" => words["shape"], **values, "cut" => !!words["cut"]}
        end

        def drawn(shape, colour)
          part = send(:"#{shape["shape"]}_of", shape)
          # What is moved out of the middle and repeated goes around it.
          (0...shape["repeat"]).map { |time|
            move = "rotate(#{n(360.0 / shape["repeat"] * time)}) " \
              "translate(#{pair(shape["x"] * RADIUS, shape["y"] * RADIUS)}) rotate(#{n(-shape["turn"])}) " \
              "scale(#{pair(shape["size"], shape["size"] * shape["squeeze"])})"
            %(<g transform="#{move}" fill="#{colour}" stroke="none">#{part}</g>)
          }.join
        end

        def n(number) = number.to_f.round(2).to_s.delete_suffix(".0")

        def at(angle, radius = RADIUS) = "#{n(Math.sin(angle) * radius)} #{n(-Math.cos(angle) * radius)}"

        def closed(points) = %(<path d="M#{points.join("L")}Z"/>)

        def circle(x, y, radius) = %(<circle cx="#{n(x)}" cy="#{n(y)}" r="#{n(radius)}"/>)

        def polygon_of(shape) = closed((0...shape["corners"]).map { at(2 * Math::PI * _1 / shape["corners"]) })

        def star_of(shape)
          count = shape["points"] * 2
          closed((0...count).map { at(2 * Math::PI * _1 / count, _1.odd? ? RADIUS * shape["inner"] : RADIUS) })
        end

        def ring_of(shape)
          rings = [RADIUS, RADIUS * shape["inner"]].map { |radius|
            arc = "A#{pair(radius, radius)} 0 1 1 "
            "M#{pair(radius, 0)}#{arc}#{pair(-radius, 0)}#{arc}#{pair(radius, 0)}Z"
          }
          %(<path fill-rule="evenodd" d="#{rings.join}"/>)
        end

        def arrow_of(shape)
          neck = RADIUS - 2 * RADIUS * shape["head"]
          half = RADIUS * 0.6
          thin = half * shape["shaft"]
          closed(
            [
              "#{RADIUS} 0",
              "#{n(neck)} #{n(-half)}",
              "#{n(neck)} #{n(-thin)}",
              "#{-RADIUS} #{n(-thin)}",
              "#{-RADIUS} #{n(thin)}",
              "#{n(neck)} #{n(thin)}",
              "#{n(neck)} #{n(half)}"
            ]
          )
        end

        # Two sides, each of two curves, and a stem.
        def leaf_of(shape)
          foot = RADIUS - 2 * RADIUS * shape["stalk"]
          widest = foot - (foot + RADIUS) * shape["widest"]
          half = RADIUS * shape["width"]
          sides = [-half, half].map { |out| leaf_side(out, foot, widest) }.join
          thick = [half * 0.09, 6].max
          stem = [[-thick, foot - thick], [thick, foot - thick], [thick * 0.6, RADIUS], [-thick * 0.6, RADIUS]]
          %(<path d="#{sides}"/>#{closed(stem.map { |point| pair(*point) }) if shape["stalk"] > 0})
        end

        def leaf_side(out, foot, widest)
          lower = [[out * 0.9, foot - (foot - widest) * 0.2], [out, widest + (foot - widest) * 0.4], [out, widest]]
          upper = [[out, widest - (widest + RADIUS) * 0.5], [out * 0.2, -RADIUS * 0.85], [0, -RADIUS]]
          curves = [lower, upper].map { |points| "C#{points.map { |point| pair(*point) }.join(" ")}" }
          "M#{pair(0, foot)}#{curves.join}Z"
        end

        def pair(x, y) = "#{n(x)} #{n(y)}"

        # Lies along the line: its ends left and right.
        def taper_of(shape)
          half = RADIUS * shape["width"]
          widest = shape["widest"]
          count = 60
          along = (0..count).map { |i| i.fdiv(count) }
          wide = along.map do |t|
            part = if t <= widest
              widest.zero? ? 1 : t / widest
            else
              ((widest == 1) ? 1 : (1 - t) / (1 - widest))
            end
            half * (shape["blunt"] + (1 - shape["blunt"]) * Math.sin(part * Math::PI / 2))
          end
          upper = along.zip(wide).map { |t, w| "#{n((t * 2 - 1) * RADIUS)} #{n(-w)}" }
          lower = along.zip(wide).map { |t, w| "#{n((t * 2 - 1) * RADIUS)} #{n(w * (1 - shape["straight"]))}" }
          closed(upper + lower.reverse)
        end

        def splatter_of(shape)
          chance = Random.new(shape["seed"])
          Array.new(shape["drops"]) {
            angle = chance.rand * 2 * Math::PI
            far = RADIUS * 0.92 * shape["spread"] * chance.rand**0.6
            radius = (4 + 60 * chance.rand**4) * (1.15 - far / RADIUS)
            circle(Math.cos(angle) * far, Math.sin(angle) * far, radius)
          }.join
        end

        def bristles_of(shape)
          chance = Random.new(shape["seed"])
          rows, hairs, loose = shape.values_at("rows", "hairs", "loose")
          across = 2.0 * RADIUS / hairs
          down = 2.0 * RADIUS / [rows, 2].max * 0.5
          (0...rows).flat_map { |row|
            (0...hairs).map { |hair|
              x = -RADIUS + (hair + 0.5) * across + (chance.rand - 0.5) * across * loose * 1.5
              y = (row - (rows - 1) / 2.0) * down + (chance.rand - 0.5) * down * loose * 1.5
              circle(x, y, across * (0.42 - 0.3 * loose * chance.rand))
            }
          }.join
        end

        def hatch_of(shape)
          step = 2.0 * RADIUS / shape["lines"]
          thick = n(step * shape["thick"])
          lines = (0...shape["lines"]).map { |i| n(-RADIUS + (i + 0.5 - shape["thick"] / 2.0) * step) }
          long = 2 * RADIUS
          bars = lines.map { |at| %(<rect x="#{at}" y="#{-RADIUS}" width="#{thick}" height="#{long}"/>) }
          return bars.join unless shape["cross"] == 1
          (bars + lines.map { |at| %(<rect y="#{at}" x="#{-RADIUS}" height="#{thick}" width="#{long}"/>) }).join
        end

        # Cells that paint, of a board so fine.
        def noise_of(shape)
          chance = Random.new(shape["seed"])
          side = 2.0 * RADIUS / shape["fine"]
          cells = (0...shape["fine"]).flat_map { |row|
            (0...shape["fine"]).filter_map { |column|
              next if chance.rand >= shape["share"]
              "M#{n(-RADIUS + column * side)} #{n(-RADIUS + row * side)}h#{n(side)}v#{n(side)}h#{n(-side)}z"
            }
          }
          %(<path d="#{cells.join}"/>)
        end
      end
    end
  end
end
