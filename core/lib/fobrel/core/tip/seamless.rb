# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # A picture of a surface made into a grain that goes on without end: light evened out, then blended into itself
      # over its middle, or put together anew of pieces where a blend would blur what has a structure.
      #
      #   Seamless.of(luma, way: "quilt")   # Numo::SFloat
      module Seamless
        WAYS = %w[blend quilt].freeze
        # A grain of more pixels a side is brought down.
        SIDE = 1024
        # A quilt is this large, its pieces and what they overlap with, px.
        QUILT = 512
        PIECE = 96
        OVERLAP = 24
        # Along a cut the two pass into each other over so many pixels each way.
        SOFT = 3
        # Places in the picture that are tried for each piece.
        TRIES = 90

        class << self
          # @param luma [Numo::SFloat] height × width, 0–1
          # @param way [String] one of WAYS
          # @param even [Boolean] large differences of light are taken out first
          # @param contrast [Float] 0–4, around the middle tone; 1 leaves it
          # @param invert [Boolean]
          # @param seed [Integer]
          # @return [Numo::SFloat] its right edge goes on at its left, its lower at its upper; tones as in the picture
          def of(luma, way: "blend", even: true, contrast: 1.0, invert: false, seed: 1)
            luma = flat(luma) if even
            made = (way == "quilt") ? quilted(
              luma,
              Random.new(seed)
            ) : blended(blended(luma).transpose.dup).transpose.dup
            made = laid_out(with_tones_of(made, luma))
            made = ((made - made.mean) * contrast + made.mean).clip(0, 1) unless contrast == 1
            invert ? 1 - made : made
          end

          # @param plane [Numo::SFloat]
          # @return [String] an 8-bit greyscale PNG, 0 black; black paints
          def png(plane) = Cover[1 - plane].to_png

          # How much its seams show: the mean difference across them, as a share of that between neighbours inside.
          #
          # @return [Float] 1 where a seam cannot be told
          def seams(plane)
            across = (plane[true,
              0] - plane[true, -1]).abs.mean / [(plane[true, 1..] - plane[true, 0...-1]).abs.mean, 1e-9].max
            down = (plane[0,
              true] - plane[-1, true]).abs.mean / [(plane[1.., true] - plane[0...-1, true]).abs.mean, 1e-9].max
            [across, down].max
          end

          # The tones of one picture given to another, rank by rank.
          #
          # @return [Numo::SFloat] of the shape of the first
          def with_tones_of(plane, other)
            sorted = other.flatten.sort
            at = Numo::Int32.cast(((Numo::DFloat.new(plane.size).seq + 0.5) / plane.size * sorted.size).floor)
            found = Numo::SFloat.zeros(plane.size)
            found[plane.flatten.sort_index] = sorted[at]
            found.reshape(*plane.shape)
          end

          private

          # It goes on without end, so its frame may lie anywhere: where it cuts through least.
          def laid_out(plane)
            height, width = plane.shape
            across = (plane - plane[true, Numo::Int32.cast((0...width).map { (_1 - 1) % width })]).abs.mean(0).min_index
            down = (plane - plane[Numo::Int32.cast((0...height).map { (_1 - 1) % height }), true]).abs.mean(1).min_index
            rows = Numo::Int32.cast((0...height).map { (_1 + down) % height })
            columns = Numo::Int32.cast((0...width).map { (_1 + across) % width })
            plane[rows, columns].dup
          end

          # What is larger than a quarter of the picture is light, not surface.
          def flat(luma)
            height, width = luma.shape
            small = Scaling.scale(luma, [width, 8].min, [height, 8].min)
            large = Scaling.scale(blurred(small), width, height)
            (luma - large + luma.mean).clip(0, 1)
          end

          def blurred(plane)
            [0, 1].inject(plane) do |now, axis|
              size = now.shape[axis]
              at = Numo::Int32.new(size).seq
              take = ->(by) {
                near = (at + by).clip(0, size - 1)
                axis.zero? ? now[near, true] : now[true, near]
              }
              (take[-1] + now * 2 + take[1]) / 4
            end
          end

          # Left and right made to meet: moved by half, with the middle, where the edges then lie, taken from the
          # picture as it was. Spread is kept while the two are mixed (Heitz & Neyret 2018, eq. 2, for two).
          def blended(plane)
            width = plane.shape[1]
            half = width / 2
            moved = Numo::SFloat.zeros(*plane.shape)
            moved[true, 0...(width - half)] = plane[true, half..]
            moved[true, (width - half)..] = plane[true, 0...half] if half > 0
            part = ((Numo::SFloat.new(width).seq - (width - half) + 0.5).abs / (width / 4.0) * -1.2 + 1.1).clip(0, 1)
            part = part * part * (3 - part * 2)
            mean = plane.mean
            mixed = (moved - mean) * (1 - part) + (plane - mean) * part
            mixed / Numo::NMath.sqrt(part * part + (1 - part)**2) + mean
          end

          # Pieces laid one beside the other, each the one of some tried that fits best where it overlaps, cut along the
          # line of least difference (Efros & Freeman 2001); the last overlap the first again.
          def quilted(luma, chance)
            step = PIECE - OVERLAP
            count = QUILT / step
            side = count * step
            luma = enlarged(luma, PIECE * 2)
            made = Numo::SFloat.zeros(side, side)
            filled = Numo::Bit.zeros(side, side)
            count.times do |row|
              count.times do |column|
                Clock.tick
                rows = Numo::Int32.cast((0...PIECE).map { (row * step + _1) % side })
                columns = Numo::Int32.cast((0...PIECE).map { (column * step + _1) % side })
                there = made[rows, columns].dup
                known = Numo::SFloat.cast(filled[rows, columns].dup)
                piece = best(luma, there, known, chance)
                made[rows, columns] = joined(there, known, piece)
                filled[rows, columns] = 1
              end
            end
            made
          end

          def enlarged(luma, least)
            height, width = luma.shape
            factor = least.fdiv([height, width].min)
            (factor > 1) ? Scaling.scale(luma, (width * factor).ceil, (height * factor).ceil) : luma
          end

          def best(luma, there, known, chance)
            height, width = luma.shape
            pieces = Array.new(TRIES) do
              top = chance.rand(height - PIECE + 1)
              left = chance.rand(width - PIECE + 1)
              luma[top...(top + PIECE), left...(left + PIECE)]
            end
            return pieces.first if known.sum.zero?
            pieces.min_by { |piece| (((piece - there)**2) * known).sum }
          end

          # Along each side that overlaps, the new piece begins where the two differ least.
          def joined(there, known, piece)
            keep = Numo::SFloat.zeros(PIECE, PIECE)
            differs = (piece - there)**2
            sides = {
              left: ->(plane) { plane },
              right: ->(plane) { plane.reverse(1) },
              top: ->(plane) { plane.transpose },
              bottom: ->(plane) { plane.transpose.reverse(1) }
            }
            sides.each_value do |turn|
              next unless turn[known][true, 0...OVERLAP].mean > 0.99
              cut = cut(turn[differs][true, SOFT...(OVERLAP - SOFT)].dup)
              at = Numo::SFloat.cast(cut).reshape(PIECE, 1) + SOFT
              mask = ((at - Numo::SFloat.new(PIECE).seq) / (2 * SOFT) + 0.5).clip(0, 1)
              back = {left: mask, right: mask.reverse(1), top: mask.transpose, bottom: mask.reverse(1).transpose}
              keep = Numo::SFloat.maximum(keep, back[sides.key(turn)])
            end
            keep *= known
            there * keep + piece * (1 - keep)
          end

          # The line of least difference from the first row to the last (dynamic programming).
          def cut(differs)
            rows, columns = differs.shape
            costs = [differs[0, true].to_a]
            (1...rows).each do |row|
              above = costs.last
              line = differs[row, true].to_a
              costs << line.each_index.map { |at| line[at] + above[[at - 1, 0].max..[at + 1, columns - 1].min].min }
            end
            at = costs.last.each_index.min_by { costs.last[_1] }
            (rows - 1).downto(0).map { |row|
              at = ([at - 1, 0].max..[at + 1, columns - 1].min).min_by { costs[row][_1] } unless row == rows - 1
              at
            }.reverse
          end
        end
      end
    end
  end
end
