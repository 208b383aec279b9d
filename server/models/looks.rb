# frozen_string_literal: true

module Fobrel
  module Models
    # A colour and a shape of its own, so that none is told by colour alone.
    module Looks
      COLOURS = %w[teal ochre madder violet slate moss].freeze
      SHAPES = %w[square round leaf drop bar ring].freeze

      # @param turn [Integer] how many there are already
      # @return [Hash] the look that is next in turn
      def self.next(turn) = {colour: COLOURS[turn % COLOURS.size], shape: SHAPES[turn % SHAPES.size]}

      def self.included(model)
        model.validates :colour, inclusion: {in: COLOURS}
        model.validates :shape, inclusion: {in: SHAPES}
      end
    end
  end
end
