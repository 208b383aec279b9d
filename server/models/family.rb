# frozen_string_literal: true

module Fobrel
  module Models
    # A branch of the small tree that every brush hangs on at one place.
    class Family < Record
      DEEPEST = 3

      belongs_to :library
      belongs_to :parent, class_name: "Fobrel::Models::Family", optional: true
      has_many :children, class_name: "Fobrel::Models::Family", foreign_key: :parent_id
      normalizes :name, with: -> { _1.strip }
      validates :name, length: {in: 1..60}
      validate { errors.add(:base, "Families go #{DEEPEST} deep at the most, and never in a circle") unless depth.between?(1, DEEPEST) }

      # @param ids [Array<Integer>]
      # @return [Array<Integer>] those and all below them
      def self.with_children(ids)
        found = ids
        DEEPEST.times { found |= where(parent_id: found).ids }
        found
      end

      private

      # How deep it would hang; 0 where that would be in a circle, or without end.
      def depth
        above = parent_id
        (1..DEEPEST).find do
          next true if above.nil?
          return 0 if above == id
          above = self.class.where(id: above).pick(:parent_id)
          false
        end || 0
      end
    end
  end
end
