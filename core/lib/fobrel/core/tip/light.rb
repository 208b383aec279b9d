# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # How light the paper is at each place of a page, so that light falling off over a scan or a photograph can be
      # taken out. The paper is a smooth surface through the light tones of the page's blocks; blocks that lie far below
      # it are marks, and say nothing about it.
      #
      #   light = Light.of(luma)                    # a whole page, as small as one likes
      #   evened = light.even(part, [0.2, 0, 0.5, 1])   # any part of it, at any size
      class Light
        # Blocks along the longer side.
        BLOCKS = 24
        # The tone of a block's paper is the one that this share of its pixels does not exceed.
        HIGH = 0.6
        # What lies this far below the surface is a mark.
        BELOW = 0.06
        # Times the surface is laid anew through what was not found to be a mark.
        ROUNDS = 6
        # Paper darker than this cannot be told from a mark.
        DARKEST = 0.15
        # Powers of x and y of the surface.
        POWERS = (0..3).flat_map { |i| (0..(3 - i)).map { |j| [i, j] } }.freeze
        private_constant :POWERS

        # @param luma [Numo::SFloat] of a whole page, 0–1
        # @return [Light]
        def self.of(luma)
          height, width = luma.shape
          count = BLOCKS.fdiv([width, height].max)
          columns = (width * count).ceil.clamp([4, width].min, width)
          rows = (height * count).ceil.clamp([4, height].min, height)
          high = Numo::DFloat.zeros(rows, columns)
          rows.times do |row|
            lines = luma[(row * height / rows)...((row + 1) * height / rows), true]
            columns.times do |column|
              block = lines[true, (column * width / columns)...((column + 1) * width / columns)].flatten.sort
              high[row, column] = block[((block.size - 1) * HIGH).round]
            end
          end
          new(smoothed(high))
        end

        # @return [Numo::DFloat] the paper of each block: as measured, but the surface's where a mark lies
        def self.smoothed(high)
          rows, columns = high.shape
          terms = terms((Numo::DFloat.new(rows).seq + 0.5) / rows, (Numo::DFloat.new(columns).seq + 0.5) / columns)
          tones = high.flatten
          paper = Numo::Bit.ones(tones.size)
          surface = nil
          ROUNDS.times do
            surface = terms.dot(fit(terms, tones, Numo::DFloat.cast(paper)))
            fresh = tones > surface - BELOW
            break if fresh.count_true < POWERS.size * 2 || fresh == paper
            paper = fresh
          end
          blur(Numo::DFloat.cast(paper) * (tones - surface), rows, columns) + surface.reshape(rows, columns)
        end
        private_class_method :smoothed

        # Each place's powers: places × terms.
        def self.terms(down, across)
          grid = ->(x, y) { POWERS.map { |i, j| (x**i) * (y**j) } }
          places = down.to_a.flat_map { |y| across.to_a.map { |x| grid[x, y] } }
          Numo::DFloat.cast(places)
        end
        private_class_method :terms

        # Least squares, weighted (normal equations, held steady by a trifle on the diagonal).
        def self.fit(terms, tones, weights)
          weighted = terms * weights.reshape(weights.size, 1)
          solve(weighted.transpose.dot(terms) + Numo::DFloat.eye(POWERS.size) * 1e-6, weighted.transpose.dot(tones))
        end
        private_class_method :fit

        # Gauss's elimination with the largest pivot.
        def self.solve(matrix, values)
          rows = matrix.to_a.zip(values.to_a).map { |row, value| [*row, value] }
          count = rows.size
          count.times do |i|
            best = (i...count).max_by { |k| rows[k][i].abs }
            rows[i], rows[best] = rows[best], rows[i]
            ((i + 1)...count).each do |k|
              factor = rows[k][i] / rows[i][i]
              (i..count).each { |c| rows[k][c] -= factor * rows[i][c] }
            end
          end
          (count - 1).downto(0).each_with_object(Numo::DFloat.zeros(count)) do |i, found|
            sum = ((i + 1)...count).sum { |c| rows[i][c] * found[c] }
            found[i] = (rows[i][count] - sum) / rows[i][i]
          end
        end
        private_class_method :solve

        # What the surface misses, over three blocks each way.
        def self.blur(values, rows, columns)
          plane = values.reshape(rows, columns)
          [0, 1].each do |axis|
            size = plane.shape[axis]
            at = Numo::Int32.new(size).seq
            take = ->(by) {
              axis.zero? ? plane[(at + by).clip(0, size - 1), true] : plane[true, (at + by).clip(0, size - 1)]
            }
            plane = (take[-1] + plane * 2 + take[1]) / 4
          end
          plane
        end
        private_class_method :blur

        # @return [Numo::DFloat] rows × columns: the paper's tone in the middle of each block, 0–1
        attr_reader :paper

        def initialize(paper)
          @paper = paper.clip(DARKEST, 1).freeze
          freeze
        end

        # A part of the page as if the light were even: paper 1, what is black stays black.
        #
        # @param luma [Numo::SFloat] 0–1
        # @param box [Array<Float>] left, top, width, height of that part as shares of the page
        # @return [Numo::SFloat] 0–1
        def even(luma, box = [0, 0, 1, 1])
          height, width = luma.shape
          rows, columns = paper.shape
          down = places(box[1], box[3], height, rows)
          across = places(box[0], box[2], width, columns)
          lines = between(paper, down, 0)
          (luma / Numo::SFloat.cast(between(lines, across, 1))).clip(0, 1)
        end

        private

        # Where the middles of pixels lie among the middles of blocks.
        def places(from, share, pixels, blocks)
          ((Numo::DFloat.new(pixels).seq + 0.5) / pixels * share + from) * blocks - 0.5
        end

        # Blended between neighbours; at the rim, carried on.
        def between(values, places, axis)
          last = values.shape[axis] - 1
          first = Numo::Int32.cast(places.floor.clip(0, [last - 1, 0].max))
          second = (first + 1).clip(0, last)
          part = places - first
          return values[true, first] * (1 - part) + values[true, second] * part unless axis.zero?
          part = part.reshape(part.size, 1)
          values[first, true] * (1 - part) + values[second, true] * part
        end
      end
    end
  end
end
