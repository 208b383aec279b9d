# frozen_string_literal: true

module Fobrel
  module Core
    module Preset
      # The one list of settings: forms, documentation, defaults and checks all come from it.
      module Schema
        DOCUMENT = JSON.parse(File.read(File.join(DATA, "preset.schema.json")))
        CHECKER = JsonSchema.load(DOCUMENT)
        private_constant :CHECKER

        # @param document [Hash] a parsed preset
        # @return [Array<String>] one sentence for each setting that is wrong; none when it is right
        def self.problems(document)
          return ["A preset is a JSON object with a format, a name, a method and a mark."] unless document.is_a?(Hash)
          return ["A number in it is too large, or a text has a NUL, which cannot be kept."] unless finite?(document)
          # Whether it holds is told sooner than what does not.
          return crossed(document) if CHECKER.valid?(document)
          CHECKER.validate(document).map { Sentence.of(_1) }.uniq
        end

        # Settings this version does not know; they are kept and handed on untouched.
        #
        # @param document [Hash] a valid preset
        # @return [Array<String>] their paths, such as "stroke.wobble"
        def self.unknown(document) = unknown_in(document, DOCUMENT, [])

        # The document with every known setting that it leaves out at its default.
        #
        # @param document [Hash] a valid preset
        # @return [Hash] a new, deeply frozen one
        def self.fill(document) = filled(document, DOCUMENT)

        # What the schema says of one setting: title, description, unit, range, default.
        #
        # @param path [Array<String>] such as ["tip", "size", "base"]
        # @return [Hash, nil] nil for a setting this version does not know
        def self.setting(path)
          path.inject(DOCUMENT) { |node, key| node && branches(node).filter_map { _1.dig("properties", key) }.first }
        end

        # The settings that apply to an object: its own, and those of the branch it takes.
        #
        # @param value [Hash] of a document
        # @param schema [Hash] what says how it may be
        # @return [Hash{String => Hash}] what the schema says of each, by name
        def self.known(value, schema)
          schema = schema["anyOf"].find { |one| one["type"] == "object" } || {} if schema["anyOf"]
          branches = (schema["allOf"] || []).select { |branch| taken?(value, branch["if"]) }
          [
            schema,
            *branches.map { |branch|
              branch["then"]
            }
          ].map { |one| one.fetch("properties", {}) }.inject({}, :merge)
        end

        class << self
          private

          # Everywhere an object's settings may be said.
          def branches(node) = [node, *(node["anyOf"] || []), *(node["allOf"] || []).map { _1["then"] }]

          def finite?(value)
            case value
            when Hash then value.all? { |key, inner| finite?(key) && finite?(inner) }
            when Array then value.all? { finite?(_1) }
            when Float then value.finite?
            when String then !value.include?("\0")
            else true
            end
          end

          # What a schema cannot say.
          def crossed(document)
            bent = (document["response"] || []).each_with_index.filter_map do |response, index|
              xs = (response["curve"] || []).map(&:first)
              "response #{index + 1}: the curve's points must run from left to right." if xs.each_cons(2).any? { |a, b|
                b <= a
              }
            end
            size = filled(document, DOCUMENT).dig("tip", "size")
            if size["minimum"] > size["maximum"]
              bent << "The minimum size, #{size["minimum"]} px, is above the maximum size, #{size["maximum"]} px."
            end
            bent
          end

          def unknown_in(value, schema, path)
            case value
            when Hash
              known = known(value, schema)
              value.flat_map { |key, inner|
                known[key] ? unknown_in(inner, known[key], path + [key]) : [(path + [key]).join(".")]
              }
            when Array
              value.each_with_index.flat_map { |inner, index|
                unknown_in(inner, schema.fetch("items", {}), path + [index])
              }
            else []
            end
          end

          def filled(value, schema)
            case value
            when Hash
              known = known(value, schema)
              missing = known.select { |key, inner| !value.key?(key) && inner.key?("default") }
              value.merge(missing.transform_values { _1["default"] })
                .to_h { |key, inner| [key, known[key] ? filled(inner, known[key]) : frozen(inner)] }.freeze
            when Array then value.map { filled(_1, schema.fetch("items", {})) }.freeze
            else frozen(value)
            end
          end

          def frozen(value)
            case value
            when Hash then value.to_h { |key, inner| [key, frozen(inner)] }.freeze
            when Array then value.map { frozen(_1) }.freeze
            when String then value.dup.freeze
            else value
            end
          end

          def taken?(value, condition)
            condition["properties"].all? { |key, inner| value[key] == inner["const"] }
          end
        end

        # Turns one finding of the checker into a sentence an artist can act on.
        module Sentence
          KINDS = {
            "number" => "a number",
            "integer" => "a whole number",
            "string" => "a text",
            "boolean" => "true or false",
            "object" => "an object",
            "array" => "a list"
          }.freeze

          # @param whole [String] what the document is, where all of it is meant
          def self.of(finding, whole: "The preset")
            where = finding["data_pointer"].delete_prefix("/").tr("/", ".")[0, SHORT]
            where = whole if where.empty?
            "#{where} #{wrong(finding["type"], finding["schema"], finding)}."
          end

          def self.wrong(type, schema, finding)
            given = given(finding["data"])
            case type
            when "required" then "lacks #{finding.dig("details", "missing_keys").join(", ")}"
            when *KINDS.keys then "must be #{KINDS[type]}, not #{given}"
            when "minimum" then "must be at least #{schema["minimum"]}, not #{given}"
            when "maximum" then "must be at most #{schema["maximum"]}, not #{given}"
            when "enum" then "must be one of #{schema["enum"].map(&:inspect).join(", ")}, not #{given}"
            when "const" then "must be #{schema["const"].inspect}, not #{given}"
            when "minItems" then "needs at least #{schema["minItems"]} entries"
            when "maxItems" then "may have at most #{schema["maxItems"]} entries"
            when "minLength" then "must not be empty"
            when "maxLength" then "is longer than #{schema["maxLength"]} characters"
            when "pattern" then "is not written as expected: #{given}"
            else "is not valid: #{given}"
            end
          end
          # So much of a text is said again.
          SHORT = 40
          private_constant :SHORT

          # What somebody wrote, as far as one can read it in a sentence.
          def self.given(value)
            case value
            when Hash then KINDS["object"]
            when Array then KINDS["array"]
            when String then "“#{(value.size > SHORT) ? "#{value[0, SHORT]}…" : value}”"
            when nil then "nothing"
            else JSON.generate(value)
            end
          end
          private_class_method :wrong, :given
        end
      end
    end
  end
end
