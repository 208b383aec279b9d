# frozen_string_literal: true

module Fobrel
  module Core
    module Curation
      # Finds brushes that paint nearly the same. Candidates come from a 64-bit perceptual hash of
      # their strips, so that ten thousand are compared in seconds; whether a pair is alike is
      # then told by the SSIM of the two strips.
      module Likeness
        # Side of the grid that a strip is brought down to, and of its low frequencies.
        GRID = 32
        LOW = 8
        # Hashes that differ in at most this many bits are candidates.
        BITS = 6
        # Strips at least this alike are doubles to the eye.
        ALIKE = 0.985

        # A DCT hash: the signs of a strip's 64 lowest frequencies against their median (the
        # common "pHash" recipe; Zauner 2010).
        #
        # @param png [String] a strip
        # @return [Integer] −2⁶³ to 2⁶³ − 1, as a database keeps it
        def self.hash64(png)
          small = grey(png, GRID, GRID)
          low = (dct.dot(small).dot(dct.transpose))[0...LOW, 0...LOW].flatten
          middle = low[1..].to_a.sort[(low.size - 1) / 2]
          bits = low.to_a.each_with_index.sum { |value, index| (value > middle) ? 1 << index : 0 }
          (bits >= 1 << 63) ? bits - (1 << 64) : bits
        end

        # @param png [String]
        # @return [Numo::DFloat] height × width, 0–1, on white
        def self.grey(png, width, height)
          image = Vips::Image.new_from_buffer(png, "")
          image = image.flatten(background: [255, 255, 255]) if image.has_alpha?
          image = image.colourspace(:b_w).thumbnail_image(width, height:, size: :force)
          Numo::UInt8.from_binary(image.cast(:uchar).write_to_memory).reshape(height, width).cast_to(Numo::DFloat) / 255
        end

        # Pairs whose hashes are close. Hashes within BITS of each other agree in one of BITS + 1
        # pieces, so only those that share a piece are compared.
        #
        # @param hashes [Hash{Object => Integer}]
        # @return [Array<Array(Object, Object)>] each pair once
        def self.candidates(hashes)
          buckets = Hash.new { |all, key| all[key] = [] }
          hashes.each { |key, hash| pieces(hash).each_with_index { |piece, index| buckets[[index, piece]] << key } }
          seen = {}
          buckets.each_value do |keys|
            keys.combination(2) do |one, other|
              pair = [one, other]
              next if seen.key?(pair)
              seen[pair] = distance(hashes[one], hashes[other]) <= BITS
            end
          end
          seen.select { |_, close| close }.keys
        end

        # @return [Integer] bits that differ
        def self.distance(one, other) = ((one ^ other) & MASK).digits(2).sum

        # @param one [String] a strip as PNG
        # @param other [String]
        # @return [Float] SSIM of the two on white
        def self.alike(one, other)
          Stroke::Comparison.ssim(grey(one, 350, 60), grey(other, 350, 60))
        end

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

        MASK = (1 << 64) - 1
        private_constant :MASK

        class << self
          private

          def dct
            @dct ||= Numo::DFloat.cast(Array.new(GRID) { |k| Array.new(GRID) { |n| Math.cos(Math::PI * k * (2 * n + 1) / (2 * GRID)) } })
          end

          def pieces(hash)
            bits = hash & MASK
            width = 64.fdiv(BITS + 1)
            (0..BITS).map { |i| (bits >> (i * width).floor) & ((1 << (((i + 1) * width).floor - (i * width).floor)) - 1) }
          end
        end
      end
    end
  end
end
