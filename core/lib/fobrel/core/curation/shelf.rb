# frozen_string_literal: true

module Fobrel
  module Core
    module Curation
      # Brushes of about one size with the hashes of their strips, by how many bits are set: two hashes that differ in
      # few bits have about as many. As many, too, where the same bits of both are turned over; so those are turned that
      # are set where others are not, and the numbers lie as far apart as they can.
      class Shelf
        # @return [Array<Object>] of each brush
        attr_reader :keys
        # @return [Numo::NArray] of each brush: its size (px), the hash of its strip (64 bits)
        attr_reader :sizes, :hashes

        # Which bits to turn over: those that go against the direction in which the hashes differ most (the first
        # principal component, by power iteration).
        #
        # @param hashes [Array<Integer>] 64 bits each
        # @return [Integer] a bit for each that is turned
        def self.turned(hashes)
          return 0 if hashes.size < 2
          some = hashes.each_slice([hashes.size / SOME, 1].max).map(&:first)
          bits = Numo::DFloat.cast(some.map { |hash| Array.new(64) { hash[_1] } })
          bits -= bits.mean(0)
          along = Numo::DFloat.new(64).seq + 1
          STEPS.times do
            along = bits.transpose.dot(bits.dot(along))
            length = Math.sqrt((along * along).sum)
            return 0 if length.zero?
            along /= length
          end
          along.to_a.each_with_index.sum { |part, index| part.negative? ? 1 << index : 0 }
        end

        # @param brushes [Array<Array(Object, Array(Integer, Float))>] what each is known by, its hash and size in px
        # @param turned [Integer] bits that are turned over before they are counted
        def initialize(brushes, turned: 0)
          ordered = brushes.map { |key, (hash, size)|
            [((hash ^ turned) & MASK).digits(2).sum, hash & MASK, size, key]
          }.sort_by(&:first)
          @counts, hashes, sizes, @keys = ordered.transpose
          @hashes = Numo::UInt64.cast(hashes)
          @sizes = Numo::DFloat.cast(sizes)
        end

        # @param other [Shelf] which may be this one
        # @return [Array<Array(Object, Object)>] each pair once
        def pairs_with(other)
          rows.flat_map do |count, places|
            near = other.within(count)
            near = places.begin..near.end if other.equal?(self)
            next [] if near.size.zero?
            places.each_slice([BLOCK / near.size, 1].max).flat_map { |some| pairs(other, some.first..some.last, near) }
          end
        end

        # @return [Range] of places whose brushes have about as many bits set
        def within(count)
          from = @counts.bsearch_index { _1 >= count - Likeness::BITS } || @counts.size
          (from..(@counts.bsearch_index { _1 > count + Likeness::BITS } || @counts.size) - 1)
        end

        MASK = (1 << 64) - 1
        # So many pairs are looked at in one go: they lie in a core's own cache.
        BLOCK = 16_384
        # As many hashes tell the direction, in so many steps.
        SOME = 1000
        STEPS = 30
        private_constant :MASK, :BLOCK, :SOME, :STEPS

        private

        # @return [Hash{Integer => Range}] places by how many bits are set
        def rows = @counts.each_index.group_by { @counts[_1] }.transform_values { _1.first.._1.last }

        def pairs(other, places, near)
          apart = other.hashes[near].reshape(1, near.size) ^ @hashes[places].reshape(places.size, 1)
          at = (count(apart.inplace) <= Likeness::BITS).where
          return [] if at.size.zero?
          rows = at / near.size + places.begin
          columns = at % near.size + near.begin
          fit = fitting(other, rows, columns).where
          return [] if fit.size.zero?
          rows[fit].to_a.zip(columns[fit].to_a).map { |row, column| [@keys[row], other.keys[column]] }
        end

        # Of about one size, and each pair once.
        def fitting(other, rows, columns)
          one = @sizes[rows]
          two = other.sizes[columns]
          fit = Numo::DFloat.maximum(one, two) <= Numo::DFloat.minimum(one, two) * Likeness::SIZES
          other.equal?(self) ? fit & (columns > rows) : fit
        end

        # How many bits of each are set, in place: in pairs of bits, in fours, in bytes, then all bytes summed by a
        # product (Warren, Hacker's Delight, 5-1).
        def count(values)
          half = values.dup
          half = shifted(half, values, 1) & 0x5555555555555555
          values = values.inplace - half
          half = shifted(half, values, 2) & 0x3333333333333333
          values = (values.inplace & 0x3333333333333333).inplace + half
          values = (values.inplace + shifted(half, values, 4)).inplace & 0x0f0f0f0f0f0f0f0f
          values = values.inplace * 0x0101010101010101
          values.inplace >> 56
        end

        def shifted(into, values, bits)
          into.store(values)
          (into.inplace >> bits).inplace
        end
      end
    end
  end
end
