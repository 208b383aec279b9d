# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # Memory by name, that of the last time where the shape is the same: new memory costs more than the sums that are
      # done in it.
      class Rooms
        def initialize
          @rooms = {}
        end

        # @param name [Object]
        # @param shape [Array<Integer>]
        # @param type [Class] of numbers
        # @return [Numo::NArray] with whatever was left there
        def take(name, shape, type = Numo::SFloat)
          @rooms[name] = type.zeros(*shape) unless @rooms[name]&.shape == shape
          @rooms[name].out_of_place!
        end

        # @return [Numo::SFloat] a copy that may be worked on in place
        def copy(name, array) = take(name, array.shape).tap { _1.store(array) }
      end
    end
  end
end
