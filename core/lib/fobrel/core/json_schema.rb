# frozen_string_literal: true

module Fobrel
  module Core
    # JSON Schemas that several threads may check documents against at once.
    module JsonSchema
      class << self
        # json_schemer resolves a reference when it is first used, and changes it meanwhile: a second thread arriving
        # then takes the whole schema for the part that was meant, and keeps that answer. So all references are
        # resolved here, before the schema is shared.
        #
        # @param document [Hash] a JSON Schema, draft 2020-12
        # @return [JSONSchemer::Schema]
        def load(document) = JSONSchemer.schema(document).tap { resolve(_1) }

        private

        def resolve(part)
          case part
          when JSONSchemer::Schema then resolve(part.parsed)
          when JSONSchemer::Keyword then part.respond_to?(:ref_schema) ? part.ref_schema : resolve(part.parsed)
          when Hash then part.each_value { resolve(_1) }
          when Array then part.each { resolve(_1) }
          end
        end
      end
    end
  end
end
