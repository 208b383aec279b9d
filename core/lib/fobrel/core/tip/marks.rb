# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # The drawings on a page: what is marked and hangs together is a part, and parts that lie near each other are one
      # mark.
      #
      #   marks = Marks.find(cover)          # a whole page
      #   marks.found(near: 0.02).size       # => 5
      #   marks.found(near: 0.02).first.box  # => [0.08, 0.11, 0.12, 0.3]
      class Marks
        # A pixel is marked above this cover: paper's grain stays below it.
        MARKED = 0.05
        # Parts nearer than this share of the page's longer side belong together, unless another is asked for.
        NEAR = 0.02
        # As far as that can be set.
        FARTHEST = 0.1
        # A part has so many pixels at the least; what is smaller is dust.
        LEAST = 4
        # Where more parts are found than this, it is a texture, and looked at more coarsely.
        MOST = 500
        # Parts are looked for in so many pixels at the most.
        PIXELS = 4_200_000
        # Points of an outline that are compared at first.
        POINTS = 400

        # Pixels that hang together: its number from 1, left, top, right, bottom (px, both ends in it) and how many.
        Part = Struct.new(:id, :left, :top, :right, :bottom, :pixels)

        # One drawing: its parts' numbers, and left, top, width, height as shares of the page.
        Mark = Struct.new(:parts, :box)

        # @return [Array<Part>]
        attr_reader :parts
        # @return [Numo::Int32] height × width: each pixel's part, 0 for none
        attr_reader :labels

        # @param cover [Cover] of a page
        # @return [Marks]
        def self.find(cover)
          loop do
            values = cover.values
            labels = labelled(values > MARKED)
            parts = parts_of(labels)
            if parts.size <= MOST || [cover.width, cover.height].min < 40
              parts = parts.max_by(MOST, &:pixels)
              return new(only(labels, parts), parts)
            end
            cover = cover.scale((cover.width / 2.0).ceil, (cover.height / 2.0).ceil)
          end
        end

        # Regions of marked pixels, each hanging together over sides and corners.
        #
        # @param marked [Numo::Bit] height × width
        # @return [Numo::Int32] height × width; 0 where nothing is marked, else from 1 as they begin
        def self.labelled(marked)
          height, width = marked.shape
          return Numo::Int32.zeros(height, width) if marked.none?
          plane = Numo::UInt8.cast(marked)
          image = Vips::Image.new_from_memory_copy(plane.to_binary, width, height, 1, :uchar)
          regions = Numo::Int32.from_binary(image.labelregions.cast(:int).write_to_memory).reshape(height, width)
          regions[plane.eq(0)] = 0
          corners(regions)
        end

        # Regions that touch over a corner only are one; libvips takes sides alone.
        def self.corners(regions)
          sets = {}
          root = ->(id) { (sets[id] && sets[id] != id) ? sets[id] = root[sets[id]] : id }
          touching(regions).each do |one, other|
            one, other = [root[one], root[other]].minmax
            sets[other] = one unless one == other
          end
          here = (regions.flatten.bincount > 0).where.to_a.reject(&:zero?)
          number = here.map { root[_1] }.uniq.sort.each.with_index(1).to_h
          table = Numo::Int32.zeros(regions.max + 1)
          here.each { |id| table[id] = number[root[id]] }
          table[regions]
        end
        private_class_method :corners

        def self.touching(regions)
          [[regions[0...-1, 0...-1], regions[1.., 1..]], [regions[0...-1, 1..], regions[1.., 0...-1]]].flat_map { |a, b|
            at = ((a > 0) & (b > 0) & a.ne(b)).where
            a.flatten[at].to_a.zip(b.flatten[at].to_a).uniq
          }.uniq
        end
        private_class_method :touching

        def self.parts_of(labels)
          at = (labels > 0).where
          return [] if at.empty?
          width = labels.shape[1]
          ids = labels.flatten[at]
          counts = ids.bincount.to_a
          order = ids.sort_index
          rows = Numo::Int32.cast(at / width)[order]
          columns = Numo::Int32.cast(at % width)[order]
          from = 0
          counts.each_with_index.filter_map do |count, id|
            next if count.zero?
            x = columns[from...(from + count)]
            y = rows[from...(from + count)]
            from += count
            Part.new(id, x.min, y.min, x.max, y.max, count) if count >= LEAST
          end
        end
        private_class_method :parts_of

        # Their labels alone, numbered as they come on the page.
        def self.only(labels, parts)
          table = Numo::Int32.zeros([labels.max, 0].max + 1)
          parts.sort_by!(&:id).each.with_index(1) do |part, index|
            table[part.id] = index
            part.id = index
          end
          table[labels]
        end
        private_class_method :only

        # @param labels [Numo::Int32]
        # @param parts [Array<Part>]
        # @param gaps [Array<Array(Integer, Integer, Float)>, nil] as #gaps gives them, if they are known
        # @param size [Array<Integer>] width and height in px that the parts were measured in, where the labels are a
        #   smaller copy
        def initialize(labels, parts, gaps = nil, size: labels&.shape&.reverse)
          @labels = labels
          @parts = parts.freeze
          @gaps = gaps
          @width, @height = size
        end

        # @return [Integer] px that parts are measured in
        attr_reader :width, :height

        # How far parts are from each other, as far as they could ever be asked to belong together.
        #
        # @return [Array<Array(Integer, Integer, Float)>] two parts and the distance of their nearest pixels' centres,
        #   as a share of the page's longer side
        def gaps
          @gaps ||= begin
            side = [width, height].max
            reach = FARTHEST * side
            parts.combination(2).filter_map do |one, other|
              next if boxes_apart(one, other) > reach
              distance = Marks.distance(outline(one, other, reach), outline(other, one, reach))
              [one.id, other.id, distance / side] if distance && distance <= reach
            end
          end
        end

        # @param near [Float] share of the page's longer side: parts nearer than that are one mark
        # @param joined [Array<Array<Integer>>] parts whose marks are one all the same
        # @param apart [Array<Integer>] parts whose marks are taken apart into their parts
        # @return [Array<Mark>] in reading order: rows from the top, then from the left
        def found(near: NEAR, joined: [], apart: [])
          root = parts.to_h { [_1.id, _1.id] }
          find = ->(id) { (root[id] == id) ? id : root[id] = find[root[id]] }
          join = ->(one, other) { root[find[one]] = find[other] if root[one] && root[other] }
          gaps.each { |one, other, distance| join[one, other] if distance < near }
          groups = parts.map(&:id).group_by(&find).values
          whole = groups.reject { |ids| (ids & apart).any? }
          parts.each { |part| root[part.id] = part.id }
          [*whole, *joined].each { |ids| ids.each_cons(2) { |one, other| join[one, other] } }
          in_reading_order(parts.map(&:id).group_by(&find).values.map { mark(_1) })
        end

        # The smallest distance of two outlines: every so many points first, then all that can be the nearest.
        #
        # @param one [Numo::SFloat] points × 2
        # @param other [Numo::SFloat] points × 2
        # @return [Float, nil] px between centres; nil where one is empty
        def self.distance(one, other)
          return if one.nil? || other.nil? || one.shape[0].zero? || other.shape[0].zero?
          step = ([one.shape[0], other.shape[0]].max / POINTS.to_f).ceil
          return nearest(one, other).min if step == 1
          rough = nearest(every(one, step), every(other, step)).min + 2 * step
          one = one[nearest(one, every(other, step)).<(rough + step).where, true]
          other = other[nearest(other, every(one, step)).<(rough + step).where, true]
          nearest(one, other).min
        end

        def self.every(points, step) = points[Numo::Int32.new((points.shape[0] / step.to_f).ceil).seq * step, true]
        private_class_method :every

        # From each point of the first to the nearest of the second.
        def self.nearest(one, other)
          parts = (0...one.shape[0]).each_slice(2000).map do |rows|
            some = one[rows.first..rows.last, true]
            dx = some[true, 0].reshape(rows.size, 1) - other[true, 0].reshape(1, other.shape[0])
            dy = some[true, 1].reshape(rows.size, 1) - other[true, 1].reshape(1, other.shape[0])
            (dx * dx + dy * dy).min(1)
          end
          Numo::NMath.sqrt(parts.inject { |all, more| all.concatenate(more) })
        end
        private_class_method :nearest

        private

        # How far the boxes of two parts are from each other, px.
        def boxes_apart(one, other)
          across = [one.left - other.right, other.left - one.right, 0].max
          down = [one.top - other.bottom, other.top - one.bottom, 0].max
          Math.hypot(across, down)
        end

        # The pixels of a part that have a neighbour outside it, as far as they lie near another's box.
        def outline(part, other, reach)
          points = outlines[part.id]
          near = (points[true, 0] >= other.left - reach) & (points[true, 0] <= other.right + reach) &
            (points[true, 1] >= other.top - reach) & (points[true, 1] <= other.bottom + reach)
          at = near.where
          points[at, true] unless at.empty?
        end

        def outlines
          @outlines ||= parts.to_h do |part|
            inside = labels[part.top..part.bottom, part.left..part.right].eq(part.id)
            tall, wide = inside.shape
            framed = Numo::Bit.zeros(tall + 2, wide + 2)
            framed[1..tall, 1..wide] = inside
            core = framed[0...tall, 1..wide] & framed[2.., 1..wide] & framed[1..tall, 0...wide] & framed[1..tall, 2..]
            at = (inside & ~core).where
            points = Numo::SFloat.zeros(at.size, 2)
            points[true, 0] = Numo::SFloat.cast(at % wide) + part.left
            points[true, 1] = Numo::SFloat.cast(at / wide) + part.top
            [part.id, points]
          end
        end

        def mark(ids)
          some = ids.map { |id| by_id[id] }
          left = some.map(&:left).min
          top = some.map(&:top).min
          Mark.new(
            ids.sort,
            [
              left.fdiv(width),
              top.fdiv(height),
              (some.map(&:right).max + 1 - left).fdiv(width),
              (some.map(&:bottom).max + 1 - top).fdiv(height)
            ]
          )
        end

        def by_id = @by_id ||= parts.to_h { [_1.id, _1] }

        # A mark stands in a row where the middle half of its height meets that of one there.
        def in_reading_order(marks)
          core = ->(mark) { [mark.box[1] + mark.box[3] * 0.25, mark.box[1] + mark.box[3] * 0.75] }
          rows = []
          reach = nil
          marks.sort_by { core[_1].first }.each do |mark|
            top, bottom = core[mark]
            (reach && top < reach) ? rows.last << mark : rows << [mark]
            reach = [reach, bottom].compact.max
          end
          rows.flat_map { |row| row.sort_by { |mark| [mark.box[0], mark.box[1]] } }
        end
      end
    end
  end
end
