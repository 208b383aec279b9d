# frozen_string_literal: true

module Fobrel
  module Models
    # A text template of the studio's own; see Core::Package::ExportTemplate.
    class ExportTemplate < Record
      belongs_to :library
      normalizes :name, with: Core::Names.method(:clean)

      # @return [Core::Package::ExportTemplate]
      def value = Core::Package::ExportTemplate[attributes.slice("name", "scope", "file", "body")]
    end
  end
end
