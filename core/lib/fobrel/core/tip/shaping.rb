# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # What is done to a mark once its tone stands: dust taken away, the rim faded, turned, mirrored, centred, set in a
      # square. It works on planes: cover, and beside it the colours of a mark that keeps its own.
      #
      #   Shaping.specks(cover, 12)
      #   Shaping.feathered([cover], 0.3)
      module Shaping
        # The fading is worked out on a copy of this many pixels a side.
        SIDE = 160
        # A mark is as good as cut off by its frame where it touches more than this share of the frame's rim.
        TOUCHES = 0.3
        # A mark that fills its frame fades towards the rim of a superellipse of this power.
        POWER = 3.0

        class << self
          # @param cover [Numo::SFloat] height × width, 0–1
          # @param least [Numeric] pixels: what hangs together and is smaller goes
          # @return [Numo::SFloat]
          def specks(cover, least)
            return cover if least <= 1
            labels = Marks.labelled(cover > Marks::MARKED)
            counts = labels.flatten.bincount
            small = Numo::UInt8.cast(counts < least)
            small[0] = 0
            gone = small[labels]
            # What is fainter around a speck goes with it.
            image = Vips::Image.new_from_memory_copy((gone * 255).to_binary, *cover.shape.reverse, 1, :uchar)
            image = image.rank(3, 3, 8) if cover.shape.min > 3
            kept = Numo::UInt8.from_binary(image.write_to_memory).reshape(*cover.shape).eq(0) |
              (labels > 0) & gone.eq(0)
            cover * Numo::SFloat.cast(kept)
          end

          # Cover falls towards the mark's rim, and is untouched further in.
          #
          # @param planes [Array<Numo::SFloat>] cover, and premultiplied colours
          # @param share [Float] 0–1: how far in the fading reaches, as a share of the mark's half width
          # @return [Array<Numo::SFloat>]
          def feathered(planes, share)
            return planes if share <= 0
            height, width = planes.first.shape
            factor = [SIDE.fdiv([height, width].max), 1].min
            small = Scaling.scale(planes.first, (width * factor).ceil, (height * factor).ceil)
            fade = fading(small, share)
            fade = (factor < 1) ? Scaling.scale(fade, width, height) : fade
            planes.map { _1 * fade }
          end

          # @param inside [Numo::Bit] height × width
          # @return [Numo::SFloat] of each pixel, how far the nearest one outside is, px (exact; beyond the rim all is
          #   outside). Rows first, then columns (Felzenszwalb & Huttenlocher 2012, section 2.2, by comparing all rows).
          def distances(inside)
            height, width = inside.shape
            far = Numo::SFloat.cast(inside) * (width + height)
            [(0...width), (width - 1).downto(0)].each do |columns|
              before = Numo::SFloat.zeros(height)
              columns.each { |x| before = far[true, x] = Numo::SFloat.minimum(far[true, x], before + 1) }
            end
            square = far * far
            rows = Numo::SFloat.new(height, 1).seq
            found = Numo::SFloat.minimum((rows + 1)**2, (height - rows)**2) + Numo::SFloat.zeros(height, width)
            height.times { |y| found = Numo::SFloat.minimum(found, square[y, true] + (rows - y)**2) }
            Numo::NMath.sqrt(found)
          end

          # @param degrees [Float] counter-clockwise
          # @return [Array<Numo::SFloat>] in a box as large as it then needs
          def turned(planes, degrees)
            return planes if (degrees % 360).zero?
            quarter = degrees / 90.0
            return quarter_turned(planes, quarter.to_i % 4) if quarter == quarter.round
            planes.map do |plane|
              height, width = plane.shape
              image = Vips::Image.new_from_memory_copy(plane.to_binary, width, height, 1, :float)
              image = image.similarity(angle: -degrees, interpolate: Vips::Interpolate.new(:bicubic))
              Numo::SFloat.from_binary(image.write_to_memory).reshape(image.height, image.width).clip(0, 1)
            end
          end

          # @param way [String, nil] "across" (left and right change places) or "down"
          def mirrored(planes, way)
            case way
            when "across" then planes.map { _1.reverse(1).dup }
            when "down" then planes.map { _1.reverse(0).dup }
            else planes
            end
          end

          # The box that holds the mark; where it is centred by weight, as large again as keeps its weight in the
          # middle.
          #
          # @param by [String] "middle" or "weight"
          # @param square [Boolean]
          # @param padding [Float] left free on each side, share of the longer side
          # @return [Array<Numo::SFloat>]
          def framed(planes, by: "middle", square: true, padding: 0.0)
            box = Cover[planes.first].box
            planes = planes.map { _1[*box].dup }
            planes = weighed(planes) if by == "weight"
            height, width = planes.first.shape
            rim = (padding * [height, width].max).round
            wide, tall = width + 2 * rim, height + 2 * rim
            wide = tall = [wide, tall].max + [wide, tall].max % 2 if square
            planes.map { |plane| laid(plane, wide, tall, (wide - width) / 2, (tall - height) / 2) }
          end

          # Lets the line run through the middle of both ends: the drawing is sheared so that what lies at these heights
          # at its left and right ends lies in the middle.
          #
          # @param enters [Float] 0–1 from the top, at the left end
          # @param leaves [Float] at the right end
          def lined_up(planes, enters, leaves)
            return planes if [enters, leaves].all? { (_1 - 0.5).abs < 1e-6 }
            height, width = planes.first.shape
            along = (Numo::SFloat.new(width).seq + 0.5) / width
            by = (((0.5 - enters) * (1 - along) + (0.5 - leaves) * along) * height)
            room = by.abs.max.ceil
            rows = Numo::SFloat.new(height + 2 * room, 1).seq - room - by
            planes.map do |plane|
              first = Numo::Int32.cast(rows.floor)
              part = rows - first
              columns = Numo::Int32.new(1, width).seq
              take = ->(at) {
                inside = Numo::SFloat.cast((at >= 0) & (at < height))
                plane.flatten[at.clip(0, height - 1) * width + columns] * inside
              }
              take[first] * (1 - part) + take[first + 1] * part
            end
          end

          private

          def quarter_turned(planes, count)
            planes.map do |plane|
              case count
              when 1 then plane.transpose.reverse(0).dup
              when 2 then plane.reverse(0).reverse(1).dup
              when 3 then plane.transpose.reverse(1).dup
              else plane
              end
            end
          end

          def fading(cover, share)
            inside = solid_form(cover)
            inside &= rounded(*cover.shape) if touching?(cover)
            far = distances(inside)
            reach = [far.max * share, 1e-6].max
            part = (far / reach).clip(0, 1)
            part * part * (3 - part * 2)
          end

          # The mark without its holes: all that nothing from outside reaches.
          def solid_form(cover)
            height, width = cover.shape
            open = Numo::Bit.ones(height + 2, width + 2)
            open[1..height, 1..width] = (cover > Marks::MARKED).~
            image = Vips::Image.new_from_memory_copy(Numo::UInt8.cast(open).to_binary, width + 2, height + 2, 1, :uchar)
            regions = Numo::Int32.from_binary(image.labelregions.cast(:int).write_to_memory).reshape(
              height + 2,
              width + 2
            )
            regions[1..height, 1..width].ne(regions[0, 0])
          end

          def touching?(cover)
            rim = [cover[0, true], cover[-1, true], cover[true, 0], cover[true, -1]]
            rim.sum { (_1 > Marks::MARKED).count_true } > TOUCHES * rim.sum(&:size)
          end

          def rounded(height, width)
            x = ((Numo::SFloat.new(width).seq + 0.5) / width * 2 - 1).abs**POWER
            y = ((Numo::SFloat.new(height, 1).seq + 0.5) / height * 2 - 1).abs**POWER
            (x + y) < 1
          end

          # With nothing added at the lighter side, until the weight is in the middle.
          def weighed(planes)
            cover = planes.first
            height, width = cover.shape
            sum = [cover.sum, 1e-9].max
            x = ((Numo::SFloat.new(width).seq + 0.5) * cover.sum(0)).sum / sum
            y = ((Numo::SFloat.new(height).seq + 0.5) * cover.sum(1)).sum / sum
            wide = (2 * [x, width - x].max).ceil
            tall = (2 * [y, height - y].max).ceil
            left = (wide / 2.0 - x).round.clamp(0, wide - width)
            top = (tall / 2.0 - y).round.clamp(0, tall - height)
            planes.map { laid(_1, wide, tall, left, top) }
          end

          def laid(plane, width, height, left, top)
            Numo::SFloat.zeros(height, width).tap do |canvas|
              canvas[top...(top + plane.shape[0]), left...(left + plane.shape[1])] = plane
            end
          end
        end
      end
    end
  end
end
