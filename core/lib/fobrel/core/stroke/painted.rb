# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # A stroke as computed: every dab that made it, the stroke by itself, and how it meets a page.
      class Painted
        # @return [Array<Dabs::Dab>]
        attr_reader :dabs
        # @return [Float] arc length in pixels
        attr_reader :length

        # @param planes [Array<Numo::SFloat>] alpha alone, with `colour`; or alpha and premultiplied
        #   red, green, blue
        # @param ground [Page, nil] what lay on the page before; nil is a blank one
        # @param lays [String] "over", "under", "erase" or, for paint that moves, "instead"
        # @param blend [String] one of Blending::MODES
        def initialize(planes:, dabs:, length:, ground:, colour: nil, lays: "over", blend: "normal")
          @alpha = planes.first
          @colour = colour if planes.size == 1
          @planes = planes
          @dabs = dabs
          @length = length
          @ground = ground
          @lays = lays
          @blend = blend
        end

        # @return [Numo::SFloat] height × width, 0–1
        attr_reader :alpha

        def width = alpha.shape[1]

        def height = alpha.shape[0]

        # @return [Hash] length in px, and the dabs in order
        def report = {length: length.round(4), dabs: dabs.map(&:report)}

        # @param paper [Colour, nil] lies under everything; nil leaves the page see-through
        # @return [Page] the page with the stroke on it
        def page(paper: nil)
          stroke = Page.new(@colour ? [alpha, *@colour.parts.map { alpha * _1 }] : @planes)
          paper &&= Page.plain(width, height, paper)
          @ground ||= Page.blank(width, height)
          case @lays
          when "erase" then onto(paper, @ground.without(stroke))
          when "under" then onto(paper, @ground.over(stroke))
          when "instead" then onto(paper, stroke)
          else onto(paper, @ground).under(stroke, mode: @blend)
          end
        end

        # @param paper [Colour, nil]
        # @return [String] a PNG; RGBA without paper. The same stroke gives the same bytes
        def to_png(paper: nil) = (@colour && paper.nil? && @lays == "over" && @ground.nil?) ? lone : page(paper:).to_png

        private

        def onto(paper, page) = paper ? paper.under(page) : page

        # One colour on nothing: only the alpha has to be computed.
        def lone
          pixels = Numo::UInt8.zeros(height, width, 4)
          @colour.bytes.each_with_index { |byte, band| pixels[true, true, band] = byte }
          pixels[true, true, 3] = Numo::UInt8.cast((alpha * 255).round)
          Page.png(pixels)
        end
      end
    end
  end
end
