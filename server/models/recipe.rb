# frozen_string_literal: true

module Fobrel
  module Models
    # A text template of the studio's own; see Core::Package::Recipe.
    class Recipe < Record
      belongs_to :library
      normalizes :name, with: Core::Names.method(:clean)

      # @return [Core::Package::Recipe]
      def value = Core::Package::Recipe[attributes.slice("name", "scope", "file", "body")]
    end
  end
end
