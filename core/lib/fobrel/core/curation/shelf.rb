# frozen_string_literal: true

module Fobrel
  module Core
    module Curation
      # Brushes of about one size with the hashes of their strips, by how many bits are set: two hashes that differ in
      # few bits have about as many.
      class Shelf
        # @return [Array<Object>] of each brush, as are its size (px) and hash (64 bits)
        attr_reader :keys, :sizes, :hashes

        # @param brushes [Array<Array(Object, Array(Integer, Float))>] what each is known by, its hash and size in px
        def initialize(brushes)
          ordered = brushes.map { |key, (hash, size)|
            [(hash & MASK).digits(2).sum, hash & MASK, size, key]
          }.sort_by(&:first)
          @counts, hashes, @sizes, @keys = ordered.transpose
          @hashes = Numo::UInt64.cast(hashes)
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
        private_constant :MASK, :BLOCK

        private

        # @return [Hash{Integer => Range}] places by how many bits are set
        def rows = @counts.each_index.group_by { @counts[_1] }.transform_values { _1.first.._1.last }

        def pairs(other, places, near)
          apart = other.hashes[near].reshape(1, near.size) ^ @hashes[places].reshape(places.size, 1)
          (count(apart.inplace) <= Likeness::BITS).where.to_a.filter_map do |at|
            row, column = at.divmod(near.size)
            pair(row + places.begin, other, column + near.begin)
          end
        end

        def pair(place, other, there)
          return if other.equal?(self) && there <= place
          small, large = [@sizes[place], other.sizes[there]].minmax
          [@keys[place], other.keys[there]] if large <= small * Likeness::SIZES
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
