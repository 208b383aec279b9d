# frozen_string_literal: true

module Fobrel
  module Actions
    # What RevisePresets does when brushes are fitted to a canvas; see Core::Curation::CanvasFit.
    class FitCanvas
      IMPOSSIBLE = "A canvas is 1 to 100000 px a side, and the share lies between 1 and 100 %. Nothing was changed."
      private_constant :IMPOSSIBLE

      # @param width [Numeric] px
      # @param height [Numeric] px
      # @param share [Float] 0–1 of the short side
      # @raise [Core::Problem]
      def initialize(width:, height:, share:)
        possible = [width, height].all? { |side| side&.between?(1, 100_000) } && share&.between?(0.01, 1)
        raise Core::Problem, IMPOSSIBLE unless possible
        @canvas = {width:, height:, share:}
      end

      def kind = "fit"

      def deed = "fitted to a canvas of #{@canvas[:width]} × #{@canvas[:height]} px"

      # @return [Proc] from a brush's settings to those it gets
      def to_proc = ->(value) { Core::Curation::CanvasFit.of(value, **@canvas) }
    end
  end
end
