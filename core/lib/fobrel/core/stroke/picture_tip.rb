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

        # Copies used last, by pictures and size; a slider asks for the same ones again.
        COPIES = LruCache.new(96 * 1024 * 1024) { |table| table.planes.sum(&:byte_size) }
        # All frames of a reel lie in one table, so that dabs of several are computed together, up to so many bytes.
        # Larger ones are held by frame.
        JOINED = 80 * 1024 * 1024
        # Tables beyond this are held in 16 bit: half the memory, and no sample of a strip is another for it.
        PRECISE = 24 * 1024 * 1024
        # How far the frames' marks reach, by name.
        SPANS = LruCache.new(4096)
        private_constant :COPIES, :JOINED, :PRECISE, :SPANS

        # Copies of frames as read by a dab: plane by plane, one frame after the other, each row by row with a rim of
        # nothing; the side of one with its rim.
        Table = Struct.new(:planes, :side, keyword_init: true)

        # @param names [Array<String>] what each frame's content is known by, for keeping copies
        # @param own [Boolean] whether the frames keep their own colours
        # @param crisp [Boolean] pixels are full or empty
        # @yieldparam index [Integer] of a frame that is needed
        # @yieldreturn [Tip::Cover, Tip::Paint] Tip::Paint where they keep their own colours
        def initialize(names:, own: false, crisp: false, &frame)
          @frame = frame
          @names = names
          @own = own
          @crisp = crisp
          @rooms = Rooms.new
          @spans = names.each_with_index.map { |name, index| SPANS.fetch([name, own]) { frame.call(index).span } }
        end

        # @return [Boolean] whether dabs bring their own colours
        def own_colours? = @own

        # How far from its centre a dab can reach, in pixels: no further than its farthest mark.
        def reach(dab) = ((dab.angle % 90).zero? ? [0.5, @spans[dab.frame]].min : @spans[dab.frame]) * dab.size + 1

        # @see RoundTip#together?
        def together?(one, other)
          level = level(one)
          level == level(other) && (one.frame == other.frame || joined?(level))
        end

        # @see RoundTip#cover
        def cover(batch)
          cover = planes(batch, 1).first
          @crisp ? Numo::SFloat.cast(cover >= 0.5) : cover
        end

        # @see RoundTip#through
        def through(batch) = batch.through(cover(batch))

        # @param batch [Batch]
        # @return [Array<Numo::SFloat>] cover, then premultiplied red, green, blue; each
        #   dabs × side × side
        def paint(batch) = planes(batch, 4)

        private

        def planes(batch, count)
          level = level(batch.dabs.first)
          joined = @names.size > 1 && joined?(level)
          table = joined ? table(level, @names.each_index.to_a) : table(level, [batch.dabs.first.frame])
          planes = table.planes.first(count)
          return upright(batch, table, planes, joined) if batch.dabs.all? { (_1.angle % 360).zero? }
          at = places(batch, table, joined)
          each_room(batch, planes) { |plane, room| room.store(plane[at]) }
        end

        # Memory for each plane; what is read in 16 bit becomes a share.
        def each_room(batch, planes)
          planes.each_with_index.map do |plane, index|
            room = @rooms.take(index, batch.shape)
            yield plane, room
            plane.is_a?(Numo::UInt16) ? (room.inplace * (1.0 / 65_535)).out_of_place! : room
          end
        end

        # Where nothing is turned, all pixels of a row read one row of the table, and those of a column one column.
        def upright(batch, table, planes, joined)
          side = table.side
          scale = batch.each_dab { (side - 2) / _1.size }
          across = whole(batch.dx * scale + (side / 2.0), side)
          down = whole(batch.dy * (scale * batch.each_dab { 1 / _1.roundness }) + (side / 2.0), side)
          each_room(batch, planes) do |plane, room|
            frames = plane.reshape(plane.size / (side * side), side, side)
            batch.dabs.each_with_index do |dab, index|
              room[index, true, true] =
                frames[joined ? dab.frame : 0, down[index, true, 0], across[index, 0, true]]
            end
          end
        end

        # Where each pixel of the patches reads the table.
        def places(batch, table, joined)
          scale = batch.each_dab { (table.side - 2) / _1.size }
          cos = batch.each_dab { Math.cos(_1.angle * Math::PI / 180) } * scale
          sin = batch.each_dab { Math.sin(_1.angle * Math::PI / 180) } * scale
          thin = batch.each_dab { 1 / _1.roundness }
          middle = table.side / 2.0
          across = index(:across, batch, batch.dx * cos + middle, batch.dy * -sin, table.side)
          down = index(:down, batch, batch.dx * (sin * thin) + middle, batch.dy * (cos * thin), table.side)
          at = down.inplace * table.side + across
          at = at.inplace + frames(batch, table.side) if joined
          at.out_of_place!
        end

        # The sum of both, as whole pixels of a table.
        def index(name, batch, across, down, side)
          all = @rooms.take(:place, batch.shape)
          all.store(across)
          place = (all.inplace + down).clip(0, side - 1).out_of_place!
          @rooms.take(name, batch.shape, Numo::Int32).tap { _1.store(place) }
        end

        # Where each dab's frame begins.
        def frames(batch, side)
          Numo::Int32.cast(batch.dabs.map { _1.frame * side * side }).reshape(batch.dabs.size, 1, 1)
        end

        def whole(place, side) = Numo::Int32.cast(place.inplace.clip(0, side - 1)).out_of_place!

        def level(dab) = (Math.log([dab.size, 1].max) / Math.log(STEP)).ceil

        # @return [Array(Integer, Integer)] pixels a side of a copy, and how much finer it is drawn
        def sides(level)
          size = (STEP**level).round.clamp(1, LARGEST)
          [size, (LARGEST / size).clamp(1, FINER)]
        end

        # @return [Integer] of one frame, were it held precisely
        def bytes(level) = ((sides(level).inject(:*) + 2)**2) * (@own ? 4 : 1) * 4

        def joined?(level)
          all = bytes(level) * @names.size
          ((all > PRECISE) ? all / 2 : all) <= JOINED
        end

        def table(level, frames) = COPIES.fetch([@names.values_at(*frames), @own, level]) { make(level, frames) }

        def make(level, frames)
          size, finer = sides(level)
          side = size * finer + 2
          kind = (bytes(level) * frames.size > PRECISE) ? Numo::UInt16 : Numo::SFloat
          planes = Array.new(@own ? 4 : 1) { kind.zeros(frames.size, side, side) }
          frames.each_with_index do |frame, place|
            @frame.call(frame).square.planes.zip(planes) do |from, to|
              drawn = Tip::Scaling.enlarge(Tip::Scaling.scale(from, size, size), finer)
              drawn = (drawn * 65_535).round if kind == Numo::UInt16
              to[place, 1..-2, 1..-2] = kind.cast(drawn)
            end
          end
          Table.new(planes: planes.map(&:flatten), side:)
        end
      end
    end
  end
end
