# frozen_string_literal: true

require "openapi_parser"
require "yaml"

module Fobrel
  # What openapi.yaml says of each route: who may ask (`x-may`), and the shape of what is sent. The server asks
  # here before a route runs, so that no route checks for itself; so does the spec that tries every route as every
  # role.
  #
  #   operation = Contract.operation("PUT", "/api/sets/7")
  #   operation.may                                        # => :edit
  #   operation.check({"preset_ids" => ["x"]})             # raises Contract::Unlike
  module Contract
    FILE = File.expand_path("openapi.yaml", __dir__)
    VERBS = %w[get post put delete].freeze
    # Whoever asks, signed in or not; whoever is signed in, about their own things; whoever runs the studio.
    OPEN = %i[anyone self studio].freeze

    # Bytes of JSON, where a route says nothing else: 200,000 numbers of brushes.
    MAX_JSON = 2 * 1024 * 1024

    # The least and greatest of a number for which the file says nothing else (as it says itself).
    BOUNDS = {
      "number" => {"minimum" => -1e12, "maximum" => 1e12},
      "integer" => {"minimum" => -(2**53), "maximum" => 2**53}
    }.freeze
    private_constant :BOUNDS

    # Raised with what is not as it should be, as a sentence.
    class Unlike < StandardError; end

    # One verb at one address.
    #
    # - `path` as the file writes it, `/api/sets/{id}`
    # - `may` :anyone, :self, :studio or a deed of Models::Membership
    # - `pattern` that an address of this route fits
    # - `shapes` the OpenAPIParser::Schemas::Operation
    # - `changes` whether it changes anything: false for GET and for what the file says `x-changes: nothing` of (or
    #   `exports`: what is fetched is written down)
    # - `max_bytes` of what may be sent: `x-max-bytes`, 2 MB of JSON, or next to nothing
    Operation = Struct.new(:verb, :path, :may, :pattern, :shapes, :changes, :max_bytes, keyword_init: true) do
      alias_method :changes?, :changes

      # @return [Boolean] whether it is about no library
      def open? = OPEN.include?(may)

      # @param data [Hash] what was sent as JSON
      # @raise [Unlike] where a field is missing that must be there, or is of another kind
      def check(data)
        shapes.validate_request_body("application/json", data, AS_SENT)
      rescue OpenAPIParser::OpenAPIError => e
        raise Unlike, Contract.sentence(e)
      end

      # @param query [Hash{String => String}] what stands behind the question mark
      # @return [Hash{String => String, Integer, Float, Boolean}] what the contract knows of it, as it means it
      # @raise [Unlike]
      def asked(query)
        known = query.slice(*query_names).reject { |_, value| value == "" }
        shapes.validate_request_parameter(known, {}, AS_WRITTEN)
      rescue OpenAPIParser::OpenAPIError => e
        raise Unlike, Contract.sentence(e)
      end

      private

      def query_names = @query_names ||= shapes.send(:query_parameter_hash).to_h.keys.freeze
    end

    # JSON has kinds; an address is text.
    AS_SENT = OpenAPIParser::SchemaValidator::Options.new
    AS_WRITTEN = OpenAPIParser::SchemaValidator::Options.new(coerce_value: true, validate_header: false)
    private_constant :AS_SENT, :AS_WRITTEN

    class << self
      # @return [Array<Operation>] in the order of the file
      def operations
        @operations ||= document.paths.path.flat_map { |path, item|
          VERBS.filter_map { |verb| operation_of(verb, path, item) }
        }.freeze
      end

      # @param verb [String]
      # @param path [String] as it was asked for
      # @return [Operation, nil] nil for what the contract does not know
      def operation(verb, path)
        verb = "GET" if verb == "HEAD"
        by_shape.fetch([verb, path.count("/")], []).find { |one| one.pattern.match?(path) }
      end

      # What an address names, other than a library itself.
      THINGS = {
        "presets" => :Preset,
        "sets" => :BrushSet,
        "categories" => :Category,
        "statuses" => :Status,
        "tags" => :Tag,
        "bundles" => :Bundle,
        "export-templates" => :ExportTemplate,
        "desks" => :Desk,
        "imports" => :Import,
        "exports" => :Export,
        "history" => :HistoryEntry,
        "tasks" => :Task,
        "works" => :Work,
        "parts" => :Part,
        "proposals" => :Proposal,
        "follows" => :Follow
      }.freeze
      private_constant :THINGS

      # @param path [String] as it was asked for
      # @return [Integer, nil] whose library it is about; nil where there is no such thing
      def library_id(path)
        _, _, kind, id = path.split("/", 5)
        return unless id&.match?(/\A\d{1,18}\z/)
        return Integer(id, 10) if kind == "libraries"
        return Models::Release.where(id:).joins(:bundle).pick("bundles.library_id") if kind == "releases"
        Models.const_get(THINGS[kind]).where(id:).pick(:library_id) if THINGS.key?(kind)
      end

      # @api private
      # @return [String] the library's own message, with the field in place of an address in the file
      def sentence(error)
        return too_many(error) if error.is_a?(OpenAPIParser::MoreThanMaxItems)
        field = error.message[%r{#/\S*/(\w+)(?=\s|\z)}, 1]
        words = error.message.gsub(%r{#/\S+\s*}, "").sub("isn't part of the enum in", "is none of those it may be")
        words = "#{words.strip[0, 120]}…" if words.size > 120
        "What was sent is not as it should be: #{[field, words.strip].compact.join(": ")}. Nothing was changed."
      end

      private

      # The library's own message has all of them in it.
      def too_many(error)
        "These are #{error.instance_variable_get(:@value).size} at once, which is more than can be done in one go. " \
          "Nothing was changed. Do it in parts."
      end

      def document
        read = YAML.load_file(FILE, aliases: true)
        @document ||= OpenAPIParser.parse(bounded(read), strict_reference_validation: true)
      end

      # A number that has no bounds of its own in the file has those that it names for all.
      def bounded(part)
        case part
        when Array then part.map { |one| bounded(one) }
        when Hash then (BOUNDS[part["type"]] || {}).merge(part.transform_values { |one| bounded(one) })
        else part
        end
      end

      def operation_of(verb, path, item)
        shapes = item.operation(verb.to_sym) or return
        said = shapes.raw_schema
        changes = verb != "get" && !said.key?("x-changes")
        max_bytes = said.fetch("x-max-bytes") { said.key?("requestBody") ? MAX_JSON : RequestGate::ANYBODY }
        Operation.new(
          verb: verb.upcase,
          path:,
          may: said.fetch("x-may").to_sym,
          pattern: pattern(path, shapes),
          shapes:,
          changes:,
          max_bytes:
        )
      end

      # By verb and depth, so that few are tried; a path that names more comes before one that names less.
      def by_shape
        @by_shape ||= operations.sort_by { |one|
          one.path.count("{")
        }.group_by { |one| [one.verb, one.path.count("/")] }
      end

      def pattern(path, shapes)
        known = shapes.send(:path_parameter_hash).to_h
        parts = path.split(/(\{\w+\})/).map do |part|
          part.start_with?("{") ? one_of(known.fetch(part[1..-2]).schema) : Regexp.escape(part)
        end
        /\A#{parts.join}\z/
      end

      # What may stand in an address where the file has a name.
      def one_of(schema)
        return "\\d{1,18}" if schema.type == "integer"
        schema.enum ? "(?:#{Regexp.union(schema.enum)})" : schema.pattern
      end
    end
  end
end
