# frozen_string_literal: true

require "fobrel/core"

module Fobrel
  module Demo
    # Draws the demo's tips and grains by formula: shapes as signed distances, roughness from
    # seeded noise. The same name always gives the same picture.
    class Drawing
      SIDE = 240
      F = Numo::SFloat

      # @param seed [Integer]
      def initialize(seed)
        @chance = Random.new(seed)
        line = (F.new(SIDE).seq + 0.5) * (2.0 / SIDE) - 1
        @x = F.zeros(SIDE, SIDE) + line
        @y = F.zeros(SIDE, SIDE) + line.reshape(SIDE, 1)
      end

      # @return [String] a PNG file, black paints
      def self.tip(name, seed) = Core::Tip::Cover[new(seed).public_send(name)].crop(margin: 2).to_png

      # @return [String] a PNG file of a long drawing for a ribbon, not squared
      def self.band(name, seed)
        cover = Core::Tip::Cover[new(seed).public_send(name)]
        Core::Tip::Cover[cover.values[*cover.box].dup].to_png
      end

      # @return [String] a PNG file in its own colours on a see-through ground
      def self.coloured(name, seed)
        alpha, *colour = new(seed).public_send(name)
        Core::Tip::Paint.new([alpha, *colour.map { _1 * alpha }]).crop.to_png
      end

      # @return [String] a seamless PNG file
      def self.grain(name, seed) = Core::Tip::Cover[new(seed).public_send(name)].to_png

      # A page out of a sketchbook: seven fronds of kelp, in ink that is not quite black, under a lamp at the left.
      #
      # @return [String] a PNG file of 1600 × 1067 px
      def self.sketchbook_page
        cover = F.zeros(1067, 1600)
        places = [[260, 300], [610, 330], [980, 290], [1360, 320], [400, 770], [800, 800], [1240, 760]]
        places.each_with_index do |(x, y), index|
          frond = Core::Tip::Scaling.scale(Core::Tip::Figure[frond(index)].cover, 400, 400)
          cover[(y - 200)...(y + 200), (x - 200)...(x + 200)] += frond
        end
        light = (F.new(1600).seq * (-0.2 / 1600) + 0.97)
        grain = F.new(1067, 1600).rand_norm(0, 0.008)
        Core::Tip::Cover[1 - (1 - cover.clip(0, 1) * 0.78) * light + grain].to_png
      end

      # A stem with leaves to both sides, each frond another way.
      def self.frond(index)
        chance = Random.new(index)
        lean = chance.rand(-18..18)
        stem = {"shape" => "taper", "turn" => 90 + lean, "width" => 0.045, "widest" => 0.3}
        side = ->(y) { Math.tan(lean * Math::PI / 180) * -y }
        leaves = Array.new(8) do |i|
          y = 0.62 - i * 0.19
          out = i.even? ? 1 : -1
          {
            "shape" => "leaf",
            "size" => 0.24 + chance.rand * 0.08,
            "stalk" => 0.1,
            "width" => 0.3 + chance.rand * 0.12,
            "turn" => lean - out * (48 + chance.rand(18)),
            "x" => side[y] + out * 0.2,
            "y" => y - 0.12
          }
        end
        [stem, *leaves]
      end
      private_class_method :frond

      # --- shapes -------------------------------------------------------------------------

      def blot = solid(disc(0, 0, 0.62) + noise(5) * 0.5 - 0.25)

      def nib = solid(box(0, 0, 0.86, 0.14, 0.5) + noise(20) * 0.04)

      def bristles(count = 26)
        many(count) { disc(between(-0.9, 0.9), between(-0.35, 0.35), between(0.012, 0.06)) }
      end

      def fan = many(13) { |i| disc(-0.9 + i * 0.15, between(-0.06, 0.06), between(0.02, 0.06)) }

      def chalk = round_soft(0.9) * rough(26, 0.46)

      def charcoal = round_soft(0.95) * rough(44, 0.52) * (0.6 + noise(6) * 0.4)

      def pencil = round_soft(0.8) * rough(60, 0.42)

      def sponge = solid(disc(0, 0, 0.85) + noise(5) * 0.3) * rough(11, 0.5)

      def spatter = many(70) { disc(gauss * 0.4, gauss * 0.4, between(0.006, 0.05)) }

      def grit = many(160) { disc(gauss * 0.36, gauss * 0.36, between(0.004, 0.014)) }

      def cloud = round_soft(1.0) * (noise(4) * 0.7 + noise(9) * 0.5).clip(0, 1)**1.6

      def fog = round_soft(1.05)**1.5 * (0.5 + noise(3) * 0.5)

      def wet_edge
        r = radius + noise(4) * 0.16
        (edge(r - 0.8) * (0.25 + 0.75 * F::Math.exp(((r - 0.78) / 0.09)**2 * -1))).clip(0, 1)
      end

      def hatch = lines(5, 0.035) * edge(radius - 0.92)

      def cross_hatch
        [lines(5, 0.03), lines(5, 0.03).transpose].inject { |a, b| F.maximum(a, b) } * edge(radius - 0.92)
      end

      def long_hatch
        many(9) { |i| segment(between(-1, -0.6), -0.8 + i * 0.2, between(0.5, 0.95), -0.86 + i * 0.2, 0.012) }
      end

      def stipple = many(34) { disc(between(-0.85, 0.85), between(-0.85, 0.85), between(0.02, 0.045)) }

      def ring = solid(disc(0, 0, 0.78).abs - 0.13)

      def rope
        twist = @x * 0.8 + @y * 1.6
        solid(box(0, 0, 0.92, 0.4, 0.36)) * (0.35 + 0.65 * edge((F::Math.sin(twist * 9) * 0.5) - 0.18))
      end

      def knot
        solid(
          F.minimum(
            F.minimum(disc(-0.28, 0, 0.42).abs - 0.11, disc(0.28, 0, 0.42).abs - 0.11),
            box(0, 0, 0.9, 0.08, 0.08)
          )
        )
      end

      def anchor
        arms = F.maximum(disc(0, 0.1, 0.62).abs - 0.08, @y * -1 + 0.25)
        parts = [
          arms,
          segment(0, -0.55, 0, 0.7, 0.07),
          segment(-0.3, -0.35, 0.3, -0.35, 0.06),
          disc(0, -0.7, 0.15).abs - 0.06
        ]
        solid(parts.inject { |a, b| F.minimum(a, b) })
      end

      def lantern
        parts = [
          box(0, 0.1, 0.34, 0.42, 0.08).abs - 0.05,
          box(0, 0.62, 0.44, 0.06, 0.03),
          box(0, -0.42, 0.3, 0.07, 0.03),
          disc(0, -0.62, 0.16).abs - 0.04,
          disc(0, 0.18, 0.15)
        ]
        solid(parts.inject { |a, b| F.minimum(a, b) })
      end

      def gull
        left = F.maximum(disc(-0.42, 0.42, 0.6).abs - 0.06, @y - 0.12)
        right = F.maximum(disc(0.42, 0.42, 0.6).abs - 0.06, @y - 0.12)
        solid(F.minimum(F.maximum(left, @x - 0.02), F.maximum(right, @x * -1 - 0.02)))
      end

      def drop = solid(F.minimum(disc(0, 0.3, 0.4), wedge(0, -0.85, 0.35, 1.05)))

      def fish
        body = F.maximum(disc(0, 0.55, 0.85), disc(0, -0.55, 0.85))
        solid(F.maximum(F.minimum(body, F.maximum(wedge_side, @x * -1 + 0.45)), disc(-0.42, -0.06, 0.07) * -1))
      end

      def kelp
        wave = F::Math.sin(@y * 5) * 0.18
        F.maximum(solid((@x - wave).abs - 0.06 - (1 - @y.abs) * 0.1), many(7) { |i| leaf(i) })
      end

      def leaf_shape
        solid(F.maximum(disc(0, 0.5, 0.86), disc(0, -0.5, 0.86))) * (1 - solid(segment(-0.6, 0, 0.6, 0, 0.015)))
      end

      def star
        turn = F::Math.atan2(@y, @x)
        solid(radius - 0.5 - F::Math.cos(turn * 5) * 0.22)
      end

      def pebble = solid(disc(0, 0, 0.5) + (noise(3) - 0.5) * 0.5)

      def tuft = many(9) { |i| segment(0, 0.8, -0.7 + i * 0.175 + between(-0.1, 0.1), between(-0.85, -0.3), 0.03) }

      def roof
        solid(
          F.maximum(
            box(0, 0.35, 0.55, 0.45 + between(-0.1, 0.05), 0),
            @y * -1 - 0.1
          )
        ) + solid(wedge(0, -0.75 + between(0, 0.25), 0.75, 0.72))
      end

      def fir
        [0.35, 0.0, -0.4].map { |y|
          solid(wedge(between(-0.05, 0.05), y - 0.42, 0.5 + y * 0.3, 0.75))
        }.inject { |a, b| F.maximum(a, b) }
      end

      def figure
        many(1) {
          disc(
            0,
            -0.6,
            0.16
          )
        } + solid(
          segment(
            0,
            -0.4,
            between(-0.1, 0.1),
            0.15,
            0.15
          )
        ) + solid(
          segment(
            0,
            0.1,
            between(-0.3, -0.1),
            0.85,
            0.06
          )
        ) + solid(segment(0, 0.1, between(0.1, 0.3), 0.85, 0.06))
      end

      def plank
        solid(box(0, 0, 0.95, 0.24, 0.03)) * (0.55 + 0.45 * edge(F::Math.sin((@y + noise(4) * 0.12) * 46) * 0.4 - 0.12))
      end

      def rivet = solid(disc(0, 0, 0.6)) * (1 - solid(disc(-0.14, -0.14, 0.2)) * 0.75)

      def net
        F.maximum(
          F.maximum(lines(4, 0.03), lines(4, 0.03).transpose) * edge(@x.abs - 0.95) * edge(@y.abs - 0.95),
          dots(4, 0.07)
        )
      end

      def wave
        crest = F::Math.sin(@x * 6) * 0.2
        solid((@y - crest).abs - 0.07 + @x.abs * 0.05) * edge(@x.abs - 0.95)
      end

      def cobble
        many(12) {
          box(between(-0.75, 0.75), between(-0.75, 0.75), between(0.09, 0.2), between(0.07, 0.16), 0.07)
        } * rough(16, 0.3)
      end

      def crack
        points = (0..9).map { |i| [-0.95 + i * 0.21, between(-0.22, 0.22)] }
        points.each_cons(2).map { |a, b|
          solid(segment(*a, *b, between(0.012, 0.035)))
        }.inject { |a, b| F.maximum(a, b) }
      end

      def scales
        many(15) { |i| disc(-0.75 + (i % 5) * 0.36 + (i / 5 % 2) * 0.18, -0.45 + (i / 5) * 0.36, 0.2).abs - 0.025 }
      end

      def pixel = solid(box(0, 0, 0.9, 0.9, 0.0))

      def plus = solid(F.minimum(box(0, 0, 0.9, 0.28, 0), box(0, 0, 0.28, 0.9, 0)))

      def checker = F.cast(((@x * 4).floor + (@y * 4).floor).abs % 2)

      # --- long drawings for ribbons: x runs along, y across --------------------------------

      def braid
        strands = [0, 1, 2].map { |i| (@y - F::Math.sin(@x * Math::PI * 4 + i * 2.1) * 0.18).abs - 0.07 }
        strands.map { edge(_1) }.inject { |a, b| F.maximum(a, b) }
      end

      def hawser = edge(@y.abs - 0.26) * (0.3 + 0.7 * edge(F::Math.sin((@x * 5 + @y * 2.4) * Math::PI) * 0.3 - 0.14))

      def chain
        links = ((@x + 1) * 3) % 1.0
        edge(F::Math.sqrt(((links - 0.5) * 0.6)**2 + @y * @y).then { (_1 - 0.2).abs - 0.06 })
      end

      def foam = edge(@y.abs - 0.16 - (noise(9) - 0.4) * 0.3) * (0.3 + 0.7 * rough(18, 0.4))

      def tapered = edge(@y.abs - 0.3 * (1 - @x.abs**1.5)) * (0.6 + 0.4 * noise(30))

      def rails
        F.maximum(
          F.maximum(edge((@y - 0.2).abs - 0.03), edge((@y + 0.2).abs - 0.03)),
          edge(@y.abs - 0.28) * edge((((@x + 1) * 8) % 1.0 - 0.5).abs - 0.12)
        )
      end

      def vine
        stem = edge((@y - F::Math.sin(@x * Math::PI * 3) * 0.12).abs - 0.025)
        leaves = many(12) { |i|
          disc(
            -0.92 + i * 0.167,
            Math.sin((-0.92 + i * 0.167) * Math::PI * 3) * 0.12 + ((i % 2).zero? ? 0.14 : -0.14),
            0.075
          )
        }
        F.maximum(stem, leaves)
      end

      def bark
        edge(@y.abs - 0.3) * ((F::Math.sin((@y * 9 + (noise(6) - 0.5) * 2.4) * Math::PI) * 0.5 + 0.5) * 0.9 + 0.1)
      end

      # --- drawings in their own colours: cover, red, green, blue -----------------------------

      def buoy
        body = solid(disc(0, 0.15, 0.6))
        white = edge((@y - 0.1).abs - 0.16)
        mast = solid(segment(0, -0.85, 0, -0.4, 0.05))
        [F.maximum(body, mast), *tinted(white, [0.96, 0.94, 0.88], [0.75, 0.16, 0.14])]
      end

      def pennant
        cloth = solid(F.maximum((@y + 0.25).abs - 0.5 + (@x + 0.65) * 0.34, @x * -1 - 0.65))
        pole = solid(segment(-0.68, -0.85, -0.68, 0.9, 0.05))
        ring = edge(disc(-0.25, -0.25, 0.2).abs - 0.07)
        [F.maximum(cloth, pole), *tinted(ring, [0.95, 0.9, 0.7], [0.24, 0.42, 0.36])]
      end

      def lit_window
        frame = solid(box(0, 0, 0.7, 0.85, 0.05))
        bars = F.maximum(edge(@x.abs - 0.05), edge(@y.abs - 0.05))
        rim = F.maximum(edge(0.6 - @x.abs), edge(0.75 - @y.abs))
        [frame, *tinted(F.maximum(bars, rim), [0.2, 0.16, 0.13], [0.96, 0.76, 0.35])]
      end

      def rowan
        berries = many(9) { disc(between(-0.55, 0.55), between(-0.4, 0.5), 0.17) }
        leaf = solid(F.maximum(disc(0, 0.4, 0.9), disc(0, -1.1, 0.9)))
        [F.maximum(berries, leaf * 0.95), *tinted(berries, [0.78, 0.2, 0.12], [0.28, 0.4, 0.2])]
      end

      def starfish
        [star, *tinted(rough(14, 0.45), [0.92, 0.6, 0.32], [0.8, 0.38, 0.22])]
      end

      # --- grains, seamless ---------------------------------------------------------------

      def tooth = (noise(60) * 0.6 + noise(30) * 0.5).clip(0, 1)

      def weave
        (0.5 + F::Math.sin(@x * Math::PI * 20) * F::Math.sin(@y * Math::PI * 20) * 0.4 + (noise(40) - 0.5) * 0.3).clip(
          0, 1
        )
      end

      def stone = (noise(8) * 0.5 + noise(20) * 0.4 + noise(50) * 0.3).clip(0, 1)**1.4

      def grain_wood
        (0.5 + F::Math.sin((@y + (noise(3) - 0.5) * 0.3) * Math::PI * 16) * 0.35 + (noise(50) - 0.5) * 0.3).clip(0, 1)
      end

      private

      def tinted(mask, inside, outside) = inside.zip(outside).map { |a, b| mask * a + (1 - mask) * b }

      def between(from, to) = from + @chance.rand * (to - from)

      def gauss = Math.sqrt(-2 * Math.log(1 - @chance.rand)) * Math.cos(2 * Math::PI * @chance.rand)

      def radius = F::Math.sqrt(@x * @x + @y * @y)

      def round_soft(size) = (1 - (radius / size)**2).clip(0, 1)**0.8

      # A signed distance as cover, with an edge about a pixel wide.
      def edge(distance) = (0.5 - distance * (SIDE / 2.0)).clip(0, 1)

      alias_method :solid, :edge

      def many(count) = (0...count).map { |i| edge(yield(i)) }.inject { |a, b| F.maximum(a, b) }

      def disc(cx, cy, r) = F::Math.sqrt((@x - cx)**2 + (@y - cy)**2) - r

      def box(cx, cy, w, h, r)
        dx = (@x - cx).abs - (w - r)
        dy = (@y - cy).abs - (h - r)
        F::Math.sqrt(dx.clip(0, 9)**2 + dy.clip(0, 9)**2) + F.minimum(F.maximum(dx, dy), 0) - r
      end

      def segment(x1, y1, x2, y2, r)
        dx = x2 - x1
        dy = y2 - y1
        t = (((@x - x1) * dx + (@y - y1) * dy) / (dx * dx + dy * dy)).clip(0, 1)
        F::Math.sqrt((@x - x1 - t * dx)**2 + (@y - y1 - t * dy)**2) - r
      end

      def wedge(cx, top, half, height)
        F.maximum((@x - cx).abs - (@y - top) * (half / height), F.maximum(@y - top - height, @y * -1 + top))
      end

      def wedge_side = @y.abs - (@x - 0.45) * 0.8 - 0.04

      def leaf(i)
        segment(
          Math.sin((-0.9 + i * 0.3) * 5) * 0.18,
          -0.9 + i * 0.3,
          ((i % 2).zero? ? -0.7 : 0.7) * 0.75,
          -1.05 + i * 0.3,
          0.06
        )
      end

      def lines(count, half) = edge((((@y + 1) * count / 2.0) % 1.0 - 0.5).abs * (2.0 / count) - half)

      def dots(count, r)
        x = (((@x + 1) * count / 2.0) % 1.0 - 0.5) * (2.0 / count)
        y = (((@y + 1) * count / 2.0) % 1.0 - 0.5) * (2.0 / count)
        edge(F::Math.sqrt(x * x + y * y) - r)
      end

      def rough(cells, threshold) = ((noise(cells) - threshold) * 6).clip(0, 1)

      # Smooth seamless noise, 0–1: a lattice of chance, blended between its points.
      def noise(cells)
        lattice = F.cast(Array.new(cells) { Array.new(cells) { @chance.rand } })
        at = F.new(SIDE).seq * cells.fdiv(SIDE)
        whole = Numo::Int32.cast(at.floor)
        part = at - at.floor
        part = part * part * (3 - part * 2)
        rows = lattice[whole % cells,
          true] * (1 - part).reshape(SIDE, 1) + lattice[(whole + 1) % cells, true] * part.reshape(SIDE, 1)
        rows[true, whole % cells] * (1 - part) + rows[true, (whole + 1) % cells] * part
      end
    end
  end
end
