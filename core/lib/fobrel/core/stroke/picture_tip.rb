# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # A tip made of pictures: each dab is a frame scaled, squeezed, turned and set down at its
      # exact place, with its own colours or taking the stroke's.
      class PictureTip
        # Copies of a frame are made at sizes this factor apart, each the average of the areas
        # its pixels cover, so that a dab never shrinks a copy enough to lose detail unevenly.
        STEP = Math.sqrt(2)
        # Each copy is drawn this much finer, so that picking the nearest point is enough.
        FINER = 3
        # Pixels a side of the finest table.
        LARGEST = 2400

        # Copies used last, by picture and size; a slider asks for the same ones again.
        COPIES = LruCache.new(24 * 1024 * 1024) { |table| table.planes.sum(&:byte_size) }
        private_constant :COPIES

        # A copy of a frame as read by a dab: its planes row by row with a rim of nothing, its
        # side with the rim, and how many of its points make a pixel of the copy's own size.
        Table = Struct.new(:planes, :side, :size, keyword_init: true)

        # @param frames [Array<Tip::Cover, Tip::Paint>] Tip::Paint keeps its own colours
        # @param names [Array<String>] what each frame's content is known by, for keeping copies
        # @param crisp [Boolean] pixels are full or empty
        def initialize(frames, names:, crisp: false)
          @frames = frames
          @names = names
          @crisp = crisp
          @spans = frames.map(&:span)
        end

        # @return [Boolean] whether dabs bring their own colours
        def own_colours? = @frames.first.is_a?(Tip::Paint)

        # How far from its centre a dab can reach, in pixels: no further than its farthest mark.
        def reach(dab) = ((dab.angle % 90).zero? ? [0.5, @spans[dab.frame]].min : @spans[dab.frame]) * dab.size + 1

        # @see RoundTip#together?
        def together?(one, other) = one.frame == other.frame && level(one) == level(other)

        # @see RoundTip#cover
        def cover(batch)
          table, at = places(batch)
          cover = table.planes.first[at]
          @crisp ? Numo::SFloat.cast(cover >= 0.5) : cover
        end

        # @param batch [Batch]
        # @return [Array<Numo::SFloat>] cover, then premultiplied red, green, blue; each
        #   dabs × side × side
        def paint(batch)
          table, at = places(batch)
          table.planes.map { |plane| plane[at] }
        end

        private

        # Where each pixel of the patches reads the table.
        def places(batch)
          table = table(batch.dabs.first)
          scale = batch.each_dab { (table.side - 2) / _1.size }
          cos = batch.each_dab { Math.cos(_1.angle * Math::PI / 180) } * scale
          sin = batch.each_dab { Math.sin(_1.angle * Math::PI / 180) } * scale
          thin = batch.each_dab { 1 / _1.roundness }
          middle = table.side / 2.0
          across = whole((batch.dx * cos + middle) - batch.dy * sin, table.side)
          down = whole((batch.dx * (sin * thin) + middle) + batch.dy * (cos * thin), table.side)
          [table, down.inplace * table.side + across]
        end

        def whole(place, side) = Numo::Int32.cast(place.inplace.clip(0, side - 1)).out_of_place!

        def level(dab) = (Math.log([dab.size, 1].max) / Math.log(STEP)).ceil

        def table(dab)
          level = level(dab)
          COPIES.fetch([@names[dab.frame], own_colours?, level]) { make(@frames[dab.frame], STEP**level) }
        end

        def make(frame, size)
          size = size.round.clamp(1, LARGEST)
          finer = (LARGEST / size).clamp(1, FINER)
          planes = frame.square.planes.map { |plane|
            framed(Tip::Scaling.enlarge(Tip::Scaling.scale(plane, size, size), finer))
          }
          Table.new(planes:, side: size * finer + 2, size:)
        end

        def framed(values)
          side = values.shape[0] + 2
          Numo::SFloat.zeros(side, side).tap { |rim| rim[1..-2, 1..-2] = values }.flatten
        end
      end
    end
  end
end
