# frozen_string_literal: true

module Fobrel
  module Models
    # One person's adjustments, laid over any preset for that person only.
    class Adjustments < Record
      belongs_to :person

      # @return [Core::Stroke::Adjustments] the person's, or one that changes nothing
      def self.of(person) = Core::Stroke::Adjustments[find_by(person:)&.settings || {}]
    end
  end
end
