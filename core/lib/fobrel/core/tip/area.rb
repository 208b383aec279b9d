# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # Which part of a page becomes a mark: all of it, a frame, a loop drawn by hand, or marks that were found. Places
      # are shares of the page, so that they mean the same on a copy of any size.
      #
      #   Area[{"marks" => [3, 5], "box" => [0.1, 0.2, 0.3, 0.3]}]
      #   Area[{"loop" => [[0.1, 0.1], [0.4, 0.1], [0.2, 0.5]], "only" => true}]
      class Area
        # Around a mark so much is read, for what is fainter than where it was found; share of its longer side.
        AROUND = 0.03
        # Other marks are left out with so much around them, pixels of the labels.
        RIM = 2

        def self.[](words) = new(words)

        # Cells of a sheet cut by a grid, row by row.
        #
        # @return [Array<Area>]
        def self.grid(rows, columns)
          (0...rows).flat_map { |row|
            (0...columns).map { |column|
              new("box" => [column.fdiv(columns), row.fdiv(rows), 1.0 / columns, 1.0 / rows])
            }
          }
        end

        # @param mark [Marks::Mark]
        def self.of(mark) = new("marks" => mark.parts, "box" => mark.box)

        # @return [Hash] what it was made of
        attr_reader :words

        # @param words [Hash] "box" (left, top, width, height), and beside it "marks" (numbers of parts) with "cuts"
        #   (lines x1, y1, x2, y2 and the side that stays, 1 or -1); or "loop" (points) with "only" (what other marks
        #   reach into it is left out); nothing means the whole page
        def initialize(words = {})
          @words = words
          freeze
        end

        # @return [Array<Float>] left, top, width, height of what is read of the page, as shares
        def box
          return around(*words["box"]) if words["marks"]
          return inside(*words["box"]) if words["box"]
          return [0.0, 0.0, 1.0, 1.0] unless words["loop"]
          x, y = words["loop"].transpose
          inside(x.min, y.min, x.max - x.min, y.max - y.min)
        end

        # What of the box is the mark.
        #
        # @param width [Integer] px of the box
        # @param height [Integer] px
        # @param page [Page, nil] asked for its marks where they matter
        # @return [Numo::SFloat, nil] height × width, 1 where it belongs to it; nil where all does
        def mask(width, height, page)
          found = [
            (loop_mask(width, height) if words["loop"]),
            (others_left_out(width, height, page.marks) if page && (words["marks"] || words["only"])),
            *Array(words["cuts"]).map { side_of(_1, width, height) }
          ].compact
          found.inject { |one, other| one * other }
        end

        private

        def inside(left, top, width, height)
          left, top = [left, top].map { _1.clamp(0.0, 1.0) }
          [left, top, width.clamp(0.0, 1 - left), height.clamp(0.0, 1 - top)]
        end

        def around(left, top, width, height)
          rim = [width, height].max * AROUND
          far = [left + width + rim, top + height + rim].map { [_1, 1.0].min }
          near = [left - rim, top - rim].map { [_1, 0.0].max }
          [*near, far[0] - near[0], far[1] - near[1]]
        end

        def loop_mask(width, height)
          left, top, wide, tall = box
          points = words["loop"].map { |x, y|
            "#{((x - left) / wide * width).round(2)},#{((y - top) / tall * height).round(2)}"
          }
          svg = %(<svg xmlns="http://www.w3.org/2000/svg" width="#{width}" height="#{height}">) +
            %(<polygon points="#{points.join(" ")}" fill="#fff" fill-rule="evenodd"/></svg>)
          alpha = Vips::Image.svgload_buffer(svg)[3]
          Numo::SFloat.cast(Numo::UInt8.from_binary(alpha.write_to_memory).reshape(height, width)) / 255
        end

        # 0 where another mark is, with a rim.
        def others_left_out(width, height, marks)
          left, top, wide, tall = Picture.pixels_of(box, *marks.labels.shape.reverse)
          labels = marks.labels[top...(top + tall), left...(left + wide)]
          table = Numo::UInt8.zeros(marks.labels.max + 1)
          (marks.parts.map(&:id) - (words["marks"] || mostly_inside(labels, wide, tall, marks))).each { |id|
            table[id] = 255
          }
          image = Vips::Image.new_from_memory_copy(table[labels].to_binary, wide, tall, 1, :uchar)
          side = 2 * RIM + 1
          image = image.rank(side, side, side * side - 1) if wide > side && tall > side
          others = Numo::SFloat.cast(Numo::UInt8.from_binary(image.write_to_memory).reshape(tall, wide)) / 255
          1 - sampled(others, width, height)
        end

        # Parts of which more lies in the loop than out of it, by its pixels.
        def mostly_inside(labels, wide, tall, marks)
          loop = loop_mask(wide, tall)
          all = marks.labels.flatten.bincount
          held = labels.flatten.bincount(Numo::DFloat.cast(loop.flatten))
          (1...held.size).select { |id| all[id] > 0 && held[id] * 2 > all[id] }
        end

        def sampled(plane, width, height)
          rows = Numo::Int32.cast(((Numo::DFloat.new(height).seq + 0.5) * plane.shape[0] / height).floor)
          columns = Numo::Int32.cast(((Numo::DFloat.new(width).seq + 0.5) * plane.shape[1] / width).floor)
          plane[rows, columns]
        end

        # On one side of a line, with a soft edge of a pixel.
        def side_of((x1, y1, x2, y2, side), width, height)
          left, top, wide, tall = box
          x = (Numo::SFloat.new(width).seq + 0.5) / width * wide + left
          y = ((Numo::SFloat.new(height).seq + 0.5) / height * tall + top).reshape(height, 1)
          # Pixels of the box, so that the line is as steep as it looks.
          px, py = width / wide, height / tall
          nx, ny = -(y2 - y1) * py, (x2 - x1) * px
          length = [Math.hypot(nx, ny), 1e-9].max
          distance = ((x - x1) * px * nx + (y - y1) * py * ny) / length * (side <=> 0)
          (distance + 0.5).clip(0, 1)
        end
      end
    end
  end
end
