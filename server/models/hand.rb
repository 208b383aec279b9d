# frozen_string_literal: true

module Fobrel
  module Models
    # One person's hand, laid over any preset for that person only.
    class Hand < Record
      belongs_to :person

      # @return [Core::Stroke::Hand] the person's, or one that changes nothing
      def self.of(person) = Core::Stroke::Hand[find_by(person:)&.settings || {}]
    end
  end
end
