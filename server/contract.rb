# frozen_string_literal: true

require "openapi_parser"
require "set"
require "yaml"

module Fobrel
  # What openapi.yaml says of each route: who may ask (`x-may`), and the shape of what is sent. The server asks
  # here, and so does the spec that tries every route as every role.
  #
  #   Contract.may("PUT", "/api/sets/7")   # => :edit
  module Contract
    FILE = File.expand_path("openapi.yaml", __dir__)
    VERBS = %w[get post put delete].freeze
    # Whoever asks, signed in or not; whoever is signed in, about their own things.
    OPEN = %i[anyone self].freeze

    # @return [Hash{Array(String, String) => Symbol}] :anyone, :self or a deed of Models::Membership, by verb and path
    def self.routes
      @routes ||= YAML.load_file(FILE, aliases: true).fetch("paths").flat_map { |path, item|
        item.slice(*VERBS).map { |verb, operation| [[verb.upcase, path], operation.fetch("x-may").to_sym] }
      }.to_h.freeze
    end

    # @param verb [String]
    # @param path [String] as it was asked for
    # @return [Symbol, nil] nil for what no route has
    def self.may(verb, path)
      verb = "GET" if verb == "HEAD"
      found = patterns.fetch([verb, path.count("/")], []).find { |pattern, _| pattern.match?(path) }
      found&.last
    end

    # Raised with what is not as it should be, as a sentence.
    class Unlike < StandardError; end

    # @param verb [String]
    # @param path [String] as it was asked for
    # @param data [Hash] what was sent as JSON
    # @raise [Unlike] where a field is missing that must be there, or is of another kind
    def self.check(verb, path, data)
      operation = document.request_operation(verb.downcase.to_sym, path) or return
      operation.validate_request_body("application/json", data)
    rescue OpenAPIParser::OpenAPIError => e
      raise Unlike, "What was sent is not as it should be: #{said(e)}. Nothing was changed."
    end

    def self.document
      @document ||= OpenAPIParser.parse(YAML.load_file(FILE, aliases: true), strict_reference_validation: true)
    end
    private_class_method :document

    # The library's own message, with the field in place of an address in the file.
    def self.said(error)
      field = error.message[%r{#/\S*/(\w+)(?=\s|\z)}, 1]
      words = error.message.gsub(%r{#/\S+\s*}, "").sub("isn't part of the enum in", "is none of those it may be").strip
      [field, words].compact.join(": ")[0, 200]
    end
    private_class_method :said

    # What an address names, other than a library itself.
    THINGS = {
      "presets" => :Preset,
      "sets" => :BrushSet,
      "families" => :Family,
      "labels" => :Label,
      "tags" => :Tag,
      "bundles" => :Bundle,
      "recipes" => :Recipe,
      "seats" => :Seat,
      "arrivals" => :Arrival,
      "exports" => :Export,
      "ledger" => :LedgerEntry
    }.freeze
    private_constant :THINGS

    # @param path [String] as it was asked for
    # @return [Integer, nil] whose library it is about; nil where there is no such thing
    def self.library_id(path)
      _, _, kind, id = path.split("/", 5)
      return unless id&.match?(/\A\d{1,18}\z/)
      return Integer(id, 10) if kind == "libraries"
      return Models::Release.where(id:).joins(:bundle).pick("bundles.library_id") if kind == "releases"
      Models.const_get(THINGS[kind]).where(id:).pick(:library_id) if THINGS.key?(kind)
    end

    # By verb and depth, so that few are tried; a path that names more comes before one that names less.
    def self.patterns
      @patterns ||= routes.group_by { |(verb, path), _| [verb, path.count("/")] }.transform_values do |list|
        list.sort_by { |(_, path), _| path.count("{") }.map { |(_, path), may| [pattern(path), may] }
      end
    end
    private_class_method :patterns

    def self.pattern(path)
      /\A#{path.split(/(\{\w+\})/).map { |part| part.start_with?("{") ? "[^/]+?" : Regexp.escape(part) }.join}\z/
    end
    private_class_method :pattern
  end
end
