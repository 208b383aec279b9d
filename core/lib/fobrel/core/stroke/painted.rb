# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # A stroke as computed: its alpha, its colour, and every dab that made it.
      class Painted
        # @return [Numo::SFloat] height × width, 0–1
        attr_reader :alpha
        # @return [Array<Dabs::Dab>]
        attr_reader :dabs
        # @return [Float] arc length in pixels
        attr_reader :length
        # @return [Colour]
        attr_reader :colour

        def initialize(alpha:, dabs:, length:, colour:)
          @alpha = alpha
          @dabs = dabs
          @length = length
          @colour = colour
        end

        def width = alpha.shape[1]

        def height = alpha.shape[0]

        # @return [Hash] length in px, and the dabs in order
        def report = {length: length.round(4), dabs: dabs.map(&:report)}

        # @param paper [Colour, nil] the ground; nil gives an RGBA picture whose alpha is the
        #   stroke's
        # @return [String] a PNG; the same stroke gives the same bytes
        def to_png(paper: nil)
          planes = paper ? mixed(paper) : lone
          pixels = Numo::UInt8.zeros(height, width, planes.size)
          planes.each_with_index { |plane, band| pixels[true, true, band] = plane }
          Vips::Image.new_from_memory_copy(pixels.to_binary, width, height, planes.size, :uchar)
            .copy(interpretation: :srgb).pngsave_buffer(compression: 4, filter: :none, strip: true)
        end

        private

        def lone = [*colour.bytes, bytes(alpha)]

        # Normal blending with source-over (W3C Compositing and Blending Level 1), on encoded sRGB.
        def mixed(paper)
          colour.parts.zip(paper.parts).map { |paint, ground| bytes(alpha * (paint - ground) + ground) }
        end

        def bytes(plane) = Numo::UInt8.cast((plane * 255).round)
      end
    end
  end
end
