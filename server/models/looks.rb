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

      # @param said [Hash, nil] colour and shape as a package has them
      # @param turn [Integer] how many there are already
      # @return [Hash] the look that was said, as far as there is such a one
      def self.of(said, turn)
        colour, shape = (said || {}).values_at("colour", "shape")
        usual = self.next(turn)
        {
          colour: COLOURS.include?(colour) ? colour : usual[:colour],
          shape: SHAPES.include?(shape) ? shape : usual[:shape]
        }
      end

      def self.included(model)
        model.validates :colour, inclusion: {in: COLOURS}
        model.validates :shape, inclusion: {in: SHAPES}
      end
    end
  end
end
