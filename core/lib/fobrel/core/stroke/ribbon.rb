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
          if count >= PIECE
            (0..count).each_slice(PIECE).each_cons(2) { |now, following|
              piece(page, spots, [*now, following.first], count, stations)
            }
          end
          rest = (0..count).each_slice(PIECE).to_a.last
          piece(page, spots, rest, count, stations)
          page
        end

        private

        def piece(page, spots, indexes, count, stations)
          Clock.tick
          height, width = page.first.shape
          dabs = indexes.map { |i| stations[((stations.size - 1) * i.fdiv(count)).round] }
          lanes = (dabs.map(&:size).max / ACROSS).ceil + 1
          offset = (Numo::SFloat.new(1, lanes).seq + 0.5) * (1.0 / lanes) - 0.5
          column = ->(values) { Numo::SFloat.cast(values).reshape(values.size, 1) }
          here = indexes.map { spots[_1] }
          sizes = column[dabs.map(&:size)]
          x = column[here.map(&:x)] + column[here.map { |spot| Math.sin(spot.direction) }] * (offset * sizes)
          y = column[here.map(&:y)] + column[here.map { |spot| Math.cos(spot.direction) }] * (offset * sizes)
          values = read(indexes.map { |i| place(i.fdiv(count)) }, lanes).map { _1 * column[dabs.map(&:opacity)] }
          splat(page, x, y, values, width, height)
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
            across = plane[true,
              left] + (plane[true, (left + 1).clip(0, columns - 1)] - plane[true, left]) * (at - left)
            both = across[top,
              true] + (across[(top + 1).clip(0, rows - 1), true] - across[top, true]) * (down - top).reshape(lanes, 1)
            both.transpose
          end
        end

        # Each point gives to the four pixels around it; a pixel takes the average of what it
        # was given, and never less than it had. Only the window that the piece touches is summed.
        def splat(page, x, y, values, width, height)
          left = (x - 0.5).floor
          top = (y - 0.5).floor
          first_x, wide = window(left, width)
          first_y, tall = window(top, height)
          return unless wide && tall
          part_x = x - 0.5 - left
          part_y = y - 0.5 - top
          weights = 0
          sums = values.map { 0 }
          [[0, 0], [0, 1], [1, 0], [1, 1]].each do |down, right|
            weight = (right.zero? ? 1 - part_x : part_x) * (down.zero? ? 1 - part_y : part_y)
            at = (Numo::Int32.cast(
              (top + (down + 1 - first_y)).clip(
                0,
                tall + 1
              )
            ) * (wide + 2) + Numo::Int32.cast((left + (right + 1 - first_x)).clip(0, wide + 1))).flatten
            weights += at.bincount(weight.flatten, minlength: (wide + 2) * (tall + 2))
            sums = sums.zip(values).map { |sum, value|
              sum + at.bincount((weight * value).flatten, minlength: (wide + 2) * (tall + 2))
            }
          end
          laid = sums.map {
            Numo::SFloat.cast(_1 / Numo::DFloat.maximum(weights, 0.5)).reshape(tall + 2, wide + 2)[1..tall, 1..wide]
          }
          keep_stronger(page.map { _1[first_y...(first_y + tall), first_x...(first_x + wide)] }, laid)
        end

        # The page's pixels from the first to the last that are touched: where they begin, how many.
        def window(firsts, count)
          first = firsts.min.to_i.clamp(0, count)
          last = (firsts.max.to_i + 2).clamp(0, count)
          [first, last - first] if last > first
        end

        def keep_stronger(there, laid)
          more = Numo::SFloat.cast(laid.first > there.first)
          there.zip(laid).each { |plane, fresh| plane.store(plane + (fresh - plane) * more) }
        end
      end
    end
  end
end
