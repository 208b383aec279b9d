# frozen_string_literal: true

# Requests by chance, from the contract: every route, with names of things that are here, of others' and of none; what
# a body may hold, and now and then what it may not. The same seed gives the same requests.
class Fuzz
  ODD = [
    nil,
    true,
    -1,
    0,
    1.5,
    10**18,
    "",
    "x",
    " ",
    "\u0000",
    "\u202e",
    "a" * 3000,
    "../../etc/passwd",
    "%",
    "'; --",
    "{{ 7 | times: 7 }}",
    "=1+1",
    [],
    [[]],
    {},
    {"x" => [nil]},
    "2026-11-27",
    "sha256:#{"0" * 64}",
    "<b>"
  ].freeze
  # Ends the session, or the account, or waits for what never comes.
  LEFT_OUT = %r{/live\b|\A/api/session|/password|/me/sessions|/people/\{}
  # What is not as it should be, of a hundred.
  ODDITY = 15
  private_constant :ODD, :LEFT_OUT, :ODDITY

  # @param ids [Hash{String => Array<Integer>}] numbers of things by what an address begins with; "libraries" too
  def initialize(seed, ids)
    @chance = Random.new(seed)
    @ids = ids
    @routes = Fobrel::Contract.operations.reject { |one| one.path.match?(LEFT_OUT) }
  end

  # @return [Array(Symbol, String, Object)] verb, address, what is sent (nil for GET)
  def request
    route = @routes.sample(random: @chance)
    verb = route.verb.downcase.to_sym
    [verb, address(route), (body(route) unless verb == :get)]
  end

  private

  def odd? = @chance.rand(100) < ODDITY

  def pick(list) = list.sample(random: @chance)

  def address(route)
    path = route.path.gsub(/\{(\w+)\}/) { part(_1[1..-2], route.path) }
    names = route.shapes.send(:query_parameter_hash).to_h
    asked = names.select { @chance.rand(2).zero? }.map { |name, one|
      "#{name}=#{Rack::Utils.escape((odd? ? pick(ODD) : made(one.schema, 1)).to_s)}"
    }
    asked.empty? ? path : "#{path}?#{asked.join("&")}"
  end

  def part(name, path)
    return pick(["x", "-1", "9" * 20, "0"]) if @chance.rand(25).zero?
    kind = (name == "library") ? "libraries" : path.split("/")[2]
    return pick(@ids.fetch(kind, [1])) if %w[library id].include?(name)
    # What a thing is called by something else than its number: "follow-rights/{item}", or "{sum}" alone.
    before = path[%r{([\w-]+)/\{#{name}\}}, 1]
    pick(@ids.fetch("#{before}/#{name}") { @ids.fetch(name, [1]) })
  end

  def body(route)
    schema = route.shapes.request_body&.content&.dig("application/json")&.schema
    return pick(["", "PK\x03\x04x", "\x89PNG\r\n\x1A\nx", "{", "a,b\n1,2"]) unless schema
    @chance.rand(40).zero? ? pick(["[]", "{", "3", ""]) : made(schema, 4)
  end

  # Something as a schema has it.
  def made(schema, depth)
    return pick(ODD) if schema.nil? || odd?
    return pick(schema.enum) if schema.enum
    one = (schema.one_of || schema.any_of)&.first || schema
    case one.type
    when "object" then object(one, depth)
    when "array" then depth.zero? ? [] : Array.new(@chance.rand(4)) { made(one.items, depth - 1) }
    when "integer" then pick([0, 1, 2, 7, -3, one.minimum, one.maximum, *@ids.fetch("presets").first(8)].compact)
    when "number" then pick([0, 0.5, 1, 40.25, one.minimum, one.maximum].compact)
    when "boolean" then pick([true, false])
    else pick(["fog", "Kit 2", "tag: sea", "1.0.0", "#1d2026", "a" * 40])
    end
  end

  def object(schema, depth)
    return {} if depth.zero?
    required = schema.required || []
    schema.properties.to_h.filter_map { |name, one|
      [name, made(one, depth - 1)] if required.include?(name) || @chance.rand(2).zero?
    }.to_h
  end
end
