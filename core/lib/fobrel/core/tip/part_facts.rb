# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # What is told of a part beside its picture: its size, how much it paints, the memory it takes while it is used,
      # and a hash by which near duplicates are found.
      #
      #   PartFacts.of([["png", bytes]])   # => [{"width" => 400, …}]
      module PartFacts
        # Half-size copies of copies take a third more.
        COPIES = 4.0 / 3
        # Rows and columns of the hash: whether a cell paints more than the one at its right.
        SIDE = 8

        # @param parts [Array<Array(String, String)>] ending and bytes of each
        # @return [Array<Hash>] "width", "height" (px), "cover" (0–1), "memory" (bytes), "own" (its own colours),
        #   "hash" (16 hexadecimal digits); of one that cannot be read, {}
        def self.of(parts)
          parts.map do |ext, bytes|
            facts(ext, bytes)
          rescue Vips::Error, Problem
            {}
          end
        end

        # How many cells of two hashes differ.
        #
        # @return [Integer] 0–64
        def self.apart(one, other) = (one.to_i(16) ^ other.to_i(16)).to_s(2).count("1")

        def self.facts(ext, bytes)
          image = read_small(bytes)
          own = image.bands > 2 && image.has_alpha? && ext != "svg"
          alpha = image.has_alpha? ? image[image.bands - 1] : nil
          grey = (image.has_alpha? ? image.flatten(background: 255) : image).colourspace(:b_w)[0]
          cover = own ? alpha : (grey * -1 + 255)
          width, height = size_of(ext, bytes)
          planes = own ? 4 : 1
          {
            "width" => width,
            "height" => height,
            "cover" => (cover.avg / 255).round(4),
            "memory" => (width * height * planes * COPIES).round,
            "own" => own,
            "hash" => hash_of(grey)
          }
        end
        private_class_method :facts

        # Into memory, for a picture read line by line is there once only.
        def self.read_small(bytes)
          image = Vips::Image.thumbnail_buffer(bytes, 64, height: 64, size: :down).cast(:uchar)
          Vips::Image.new_from_memory_copy(image.write_to_memory, image.width, image.height, image.bands, :uchar)
            .copy(interpretation: image.interpretation)
        end
        private_class_method :read_small

        def self.size_of(ext, bytes)
          return [Vector::PICTURE, Vector::PICTURE] if ext == "svg"
          image = Vips::Image.new_from_buffer(bytes, "")
          [image.width, image.height]
        end
        private_class_method :size_of

        # A difference hash: of neighbouring cells, which is darker.
        def self.hash_of(grey)
          plane = Numo::UInt8.from_binary(grey.cast(:uchar).write_to_memory).reshape(grey.height, grey.width)
          cells = Scaling.scale(Numo::SFloat.cast(plane), SIDE + 1, SIDE)
          bits = (cells[true, 0...SIDE] > cells[true, 1..SIDE]).to_a.flatten
          format("%016x", bits.join.to_i(2))
        end
        private_class_method :hash_of
      end
    end
  end
end
