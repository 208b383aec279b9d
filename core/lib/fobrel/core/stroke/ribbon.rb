# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # One drawing bent along the whole stroke: its long side follows the arc, its cross side
      # the normal, as wide as the current size. Where the ribbon crosses itself the stronger
      # cover shows, so that opacity stays the ceiling.
      class Ribbon
        # Steps on the page, along and across, in pixels; below one, so that bends leave no gap.
        ALONG = 0.5
        ACROSS = 0.5
        # The ribbon is laid in pieces this many steps long; inside one, neighbours are averaged.
        PIECE = 24

        # @param frame [Tip::Cover, Tip::Paint] a drawing; a tall one is read from top to bottom
        # @param ends [Array<Float>] shares of the drawing, at its beginning and its end, that keep their length
        def initialize(frame, ends: [0, 0])
          planes = frame.planes
          planes = planes.map { _1.transpose.dup } if frame.height > frame.width
          @planes = planes
          @ends = ends
        end

        # @param path [Path]
        # @param stations [Array<Dabs::Dab>] along the path, for size and opacity
        # @param width [Integer] pixels of the page
        # @param height [Integer] pixels of the page
        # @return [Array<Numo::SFloat>] cover times opacity, and premultiplied colours where the
        #   drawing has its own
        def lay(path, stations, width, height)
          page = @planes.map { Numo::SFloat.zeros(height, width) }
          @length = path.length
          @kept = kept(stations)
          count = [(path.length / ALONG).ceil, 1].max
          spots = (0..count).map { |i| path.at(path.length * i / count) }
          dabs = (0..count).map { |i| stations[((stations.size - 1) * i.fdiv(count)).round] }
          groups(pieces(count), dabs) { |some, lanes| lay_pieces(page, some, lanes, spots, dabs, count) }
          page
        end

        private

        # @return [Array<Array<Integer>>] steps of each piece; all but the last end where the next begins
        def pieces(count)
          slices = (0..count).each_slice(PIECE).to_a
          slices.each_cons(2).map { |now, following| [*now, following.first] } << slices.last
        end

        # Pieces of the same shape, one behind the other, are computed together: much of their cost is the calls.
        #
        # @yieldparam pieces [Array<Array<Integer>>]
        # @yieldparam lanes [Integer]
        def groups(pieces, dabs)
          shapes = pieces.map { |steps| [steps.size, (steps.map { dabs[_1].size }.max / ACROSS).ceil + 1] }
          pieces.zip(shapes).chunk_while { |one, other| one.last == other.last }.each do |same|
            steps, lanes = same.first.last
            same.each_slice([Batch::PIXELS / (steps * lanes), 1].max) { |some| yield some.map(&:first), lanes }
          end
        end

        def lay_pieces(page, pieces, lanes, spots, dabs, count)
          Clock.tick
          steps = pieces.flatten
          offset = (Numo::SFloat.new(1, lanes).seq + 0.5) * (1.0 / lanes) - 0.5
          column = ->(values) { Numo::SFloat.cast(values).reshape(values.size, 1) }
          here = spots.values_at(*steps)
          own = dabs.values_at(*steps)
          across = offset * column[own.map(&:size)]
          x = column[here.map(&:x)] + column[here.map { |spot| Math.sin(spot.direction) }] * across
          y = column[here.map(&:y)] + column[here.map { |spot| Math.cos(spot.direction) }] * across
          opacity = column[own.map(&:opacity)]
          values = read(steps.map { |i| place(i.fdiv(count)) }, lanes).map { _1 * opacity }
          splat(page, x, y, values, pieces.size)
        end

        # How long both ends are on the page, px: as long as the drawing is beside its height; together no longer than
        # the stroke.
        def kept(stations)
          rows, columns = @planes.first.shape
          size = stations.sum(&:size) / stations.size
          ends = @ends.map { |share| share * columns / rows * size }
          over = ends.sum / @length
          (over > 1) ? ends.map { _1 / over } : ends
        end

        # @param share [Float] of the way along the stroke
        # @return [Float] of the way along the drawing: its ends as long as they are, the middle stretched
        def place(share)
          return share if @ends.all?(&:zero?)
          first, last = @kept
          at = share * @length
          return at / first * @ends[0] if at < first
          left = @length - at
          return 1 - left / last * @ends[1] if left < last
          @ends[0] + (at - first) / [@length - first - last, 1e-9].max * (1 - @ends.sum)
        end

        # The drawing under each point, blended between its pixels.
        def read(along, lanes)
          @planes.map do |plane|
            rows, columns = plane.shape
            at = (Numo::SFloat.cast(along) * columns - 0.5).clip(0, columns - 1)
            down = ((Numo::SFloat.new(lanes).seq + 0.5) * rows.fdiv(lanes) - 0.5).clip(0, rows - 1)
            left = Numo::Int32.cast(at.floor)
            top = Numo::Int32.cast(down.floor)
            across = between(plane[true, left], plane[true, (left + 1).clip(0, columns - 1)], at - left)
            between(
              across[top, true],
              across[(top + 1).clip(0, rows - 1), true],
              (down - top).reshape(lanes, 1)
            ).transpose
          end
        end

        def between(one, other, share) = ((other - one).inplace * share + one).out_of_place!

        # Each point gives to the four pixels around it; a pixel takes the average of what it was given by a piece, and
        # never less than it had. Only the window that a piece touches is summed, with a rim for what lies outside of
        # the page: two wide before it, two behind it.
        def splat(page, x, y, values, pieces)
          height, width = page.first.shape
          left = (x - 0.5).floor
          top = (y - 0.5).floor
          windows = windows(top, height, pieces).zip(windows(left, width, pieces))
          tall, wide = windows.transpose.map { |ranges| ranges.map(&:size).max }
          return if tall.zero? || wide.zero?
          row = wide + 4
          size = row * (tall + 4)
          each_row = lambda { |list, type|
            type.cast(list.flat_map { [_1] * (x.shape[0] / pieces) }).reshape(x.shape[0], 1)
          }
          at = within(top, each_row[windows.map { _1[0].begin }, Numo::SFloat], tall) * row
          at = at.inplace + within(left, each_row[windows.map { _1[1].begin }, Numo::SFloat], wide)
          at = (at + each_row[Array.new(pieces) { _1 * size }, Numo::Int32]).out_of_place!.flatten
          sums = sums(at, row, size * pieces, [x - 0.5 - left, y - 0.5 - top].map(&:flatten), values.map(&:flatten))
          laid = sums.map { _1.reshape(pieces, tall + 4, row) }
          windows.each_with_index do |(rows, columns), piece|
            next if rows.size.zero? || columns.size.zero?
            keep_stronger(
              page.map { _1[rows, columns] },
              laid.map { _1[piece, 2...(rows.size + 2), 2...(columns.size + 2)] }
            )
          end
        end

        # The average of each plane's values where they were given to.
        def sums(at, row, size, (right, down), values)
          across, along = [right, down].map { [1 - _1, _1] }
          weights = 0
          sums = values.map { 0 }
          [[0, 0], [0, 1], [1, 0], [1, 1]].each do |below, beside|
            weight = across[beside] * along[below]
            here = at + (below * row + beside)
            weights += here.bincount(weight, minlength: size)
            sums = sums.zip(values).map { |sum, value| sum + here.bincount(weight * value, minlength: size) }
          end
          least = Numo::DFloat.maximum(weights, 0.5)
          sums.map { Numo::SFloat.cast(_1 / least) }
        end

        # Rows or columns of a window and its rim.
        def within(places, first, most)
          Numo::Int32.cast((places - (first - 2)).inplace.clip(0, most + 2)).out_of_place!
        end

        # @return [Array<Range>] rows or columns of the page from the first to the last that each piece touches
        def windows(firsts, most, pieces)
          each = firsts.reshape(pieces, firsts.size / pieces)
          each.min(1).to_a.zip(each.max(1).to_a).map { |first, last|
            first.to_i.clamp(0, most)...(last.to_i + 2).clamp(0, most)
          }
        end

        def keep_stronger(there, laid)
          more = Numo::SFloat.cast(laid.first > there.first)
          there.zip(laid).each { |plane, fresh| plane.store(plane + (fresh - plane) * more) }
        end
      end
    end
  end
end
