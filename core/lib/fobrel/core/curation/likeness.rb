# frozen_string_literal: true

module Fobrel
  module Core
    module Curation
      # Finds brushes that paint nearly the same. Candidates come from a 64-bit perceptual hash of
      # their strips, so that ten thousand are compared in seconds; whether a pair is alike is
      # then told by the SSIM of the two strips.
      module Likeness
        # Side of the grid that a strip is brought down to.
        GRID = 32
        # Hashes that differ in at most this many bits are candidates.
        BITS = 6
        # Width and height of a thumb, and how far thumbs of alike brushes are apart at the most,
        # on average where either has paint.
        THUMB = [70, 12].freeze
        APART = 0.007
        # Strips at least this alike are duplicates to the eye.
        ALIKE = 0.97
        # Brushes whose sizes differ more than this are no duplicates, however alike their strips: a
        # large brush's strip is brought down to fit.
        SIZES = 1.25
        # All strips follow the same sample stroke, so their frequencies are much alike; the bits
        # say where among what is usual a strip lies. likeness.json, which
        # data/measure_likeness.rb wrote, holds the deciles of how much paint there is, then the
        # quartiles of 18 low frequencies.
        USUAL = JSON.parse(File.read(File.join(DATA, "likeness.json"))).freeze
        # Rows and columns of those frequencies, lowest first.
        LOW = (1...7).flat_map { |sum| (0..sum).map { |row| [row, sum - row] } }.first(18).freeze
        # Less paint than this is none.
        NONE = 1e-4
        private_constant :USUAL

        # The strip of a preset with what it is compared by.
        Looks = Struct.new(:png, :half, :hash64, :thumb)

        # @param way [Hash] as Stroke::Strip.paint takes it
        # @return [Looks]
        def self.looks(preset, **way)
          png = Stroke::Strip.png(preset, **way)
          Looks.new(png, Stroke::Strip.half(png), hash64(png), thumb(png))
        end

        # A DCT hash in the manner of the common "pHash" method (Zauner 2010): for how much paint
        # there is, and for each frequency of how it is spread, a bit for each threshold below it.
        #
        # @param png [String] a strip
        # @return [Integer] 63 bits
        def self.hash64(png)
          bits = features(png).zip(USUAL).flat_map { |value, thresholds| thresholds.map { value > _1 } }
          bits.each_with_index.sum { |set, index| set ? 1 << index : 0 }
        end

        # @param png [String] a strip
        # @return [Array<Float>] the logarithm of how much paint there is, then the frequencies of
        #   its spread, whatever its strength
        def self.features(png)
          ink = 1 - grey(png, GRID, GRID)
          amount = ink.mean + NONE
          spread = dct.dot(ink / amount).dot(dct.transpose)
          [Math.log(amount), *LOW.map { |row, column| spread[row, column] }]
        end

        # @param png [String]
        # @return [Numo::DFloat] height × width, 0–1, on white
        def self.grey(png, width, height)
          image = Vips::Image.new_from_buffer(png, "")
          image = image.flatten(background: [255, 255, 255]) if image.has_alpha?
          image = image.colourspace(:b_w).thumbnail_image(width, height:, size: :force)
          Numo::UInt8.from_binary(image.cast(:uchar).write_to_memory).reshape(height, width).then {
            Numo::DFloat.cast(_1) / 255
          }
        end

        # Pairs of about one size whose hashes are close. Brushes lie in shelves of sizes, by how many bits are set:
        # each is held only against those of its own and the next shelf that have about as many, a whole row at a time.
        #
        # @param brushes [Hash{Object => Array(Integer, Float)}] hash and size in px
        # @return [Array<Array(Object, Object)>] each pair once
        def self.candidates(brushes)
          turned = Shelf.turned(brushes.each_value.map(&:first))
          shelves = brushes.group_by { |_, (_, size)| (Math.log(size) / Math.log(SIZES)).floor }.transform_values {
            Shelf.new(_1, turned:)
          }
          shelves.flat_map do |at, shelf|
            [shelf, shelves[at + 1]].compact.flat_map { shelf.pairs_with(_1) }
          end
        end

        # How alike two strips are where either of them has paint; the blank around it would make
        # all thin lines alike.
        #
        # @param one [Numo::DFloat] as #look gives it
        # @param other [Numo::DFloat]
        # @return [Float] mean SSIM, −1 to 1
        def self.alike(one, other)
          painted = Numo::DFloat.minimum(one, other) < 0.98
          inner = painted[Stroke::Comparison::REACH...-Stroke::Comparison::REACH,
            Stroke::Comparison::REACH...-Stroke::Comparison::REACH].where
          return 1.0 if inner.empty?
          Stroke::Comparison.map(one, other)[inner].mean.to_f
        end

        # @param pairs [Array<Array(Object, Object)>]
        # @param pngs [Hash{Object => String}] the strip of each
        # @return [Array<Float>] how alike each pair is
        def self.alike_pairs(pairs, pngs)
          looks = pngs.transform_values { look(_1) }
          pairs.map { |one, other| Clock.tick || alike(looks[one], looks[other]) }
        end

        # @param png [String] a strip
        # @return [String] THUMB grey tones, a byte each
        def self.thumb(png) = Numo::UInt8.cast((grey(png, *THUMB) * 255).round).to_binary

        # Those pairs whose strips may be alike; far quicker than looking closely.
        #
        # @param pairs [Array<Array(Object, Object)>]
        # @param thumbs [Hash{Object => String}] as #thumb gives them; a pair that has none is dropped
        # @return [Array<Array(Object, Object)>]
        def self.likely(pairs, thumbs)
          at = thumbs.keys.each_with_index.to_h
          if at.any?
            tones = Numo::SFloat.cast(
              Numo::UInt8.from_binary(thumbs.values.join).reshape(
                at.size,
                THUMB.inject(:*)
              )
            ) / 255
          end
          pairs.select { |pair| pair.all? { at.key?(_1) } }.each_slice(2000).flat_map do |some|
            one, other = some.transpose.map { |keys| tones[keys.map { at[_1] }, true] }
            painted = (Numo::SFloat.minimum(one, other) < 0.98).count_true(1)
            some.values_at(*((one - other).abs.sum(1) <= Numo::SFloat.cast(painted) * APART).where.to_a)
          end
        end

        # @param png [String] a strip
        # @return [Numo::DFloat] what #alike compares
        def self.look(png) = grey(png, 350, 60)

        # Pairs gathered into groups of everything that hangs together.
        #
        # @param pairs [Array<Array(Object, Object)>]
        # @return [Array<Array<Object>>]
        def self.groups(pairs)
          head = Hash.new { |all, key| all[key] = key }
          find = ->(key) { (head[key] == key) ? key : head[key] = find[head[key]] }
          pairs.each { |one, other| head[find[one]] = find[other] }
          head.keys.group_by(&find).values
        end

        class << self
          private

          def dct
            @dct ||= Numo::DFloat.cast(
              Array.new(GRID) { |k|
                Array.new(GRID) { |n|
                  Math.cos(Math::PI * k * (2 * n + 1) / (2 * GRID))
                }
              }
            )
          end
        end
      end
    end
  end
end
