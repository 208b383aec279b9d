# frozen_string_literal: true

module Fobrel
  module Models
    # A branch of the small tree that every brush hangs on at one place.
    class Category < Record
      DEEPEST = 3

      belongs_to :library
      belongs_to :parent, class_name: "Fobrel::Models::Category", optional: true
      has_many :children, class_name: "Fobrel::Models::Category", foreign_key: :parent_id
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, length: {in: 1..60}
      validate {
        errors.add(:base, "Categories go #{DEEPEST} deep at the most, and never in a circle") unless depth.between?(
          1,
          DEEPEST
        )
      }

      # @param ids [Array<Integer>]
      # @return [Array<Integer>] those and all below them
      def self.with_children(ids)
        found = ids
        DEEPEST.times { found |= where(parent_id: found).ids }
        found
      end

      # @param library [Library]
      # @return [Hash{Integer => Array<String>}] the names from the top down to each
      def self.paths(library)
        all = library.categories.index_by(&:id)
        all.transform_values { |category|
          [category].tap { |path|
            path.unshift(all[path.first.parent_id]) while path.first.parent_id
          }.map(&:name)
        }
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
