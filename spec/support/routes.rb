# frozen_string_literal: true

# Every route of the contract, for the specs that try them all: there is no second list of them.
module Routes
  # What stands for a name in an address.
  PARTS = {
    "word" => "ribbon",
    "id" => 1,
    "item" => 1,
    "page" => 1,
    "number" => 1,
    "fingerprint" => "0" * 64,
    "shape" => "list",
    "sum" => "0" * 64,
    "name" => "nib",
    "key" => "k" * 32,
    "about" => "preset"
  }.freeze

  # @return [Array<Fobrel::Contract::Operation>]
  def self.all = Fobrel::Contract.operations

  # @return [Array<Fobrel::Contract::Operation>] those that ask who one is
  def self.guarded = all.reject { |one| one.may == :anyone }

  # @return [Array<Fobrel::Contract::Operation>] those that are about a library
  def self.of_libraries = all.reject(&:open?)

  # @param path [String] as the contract writes it
  # @param things [Hash{String => ActiveRecord::Base}] by what an address begins with, "presets"
  # @return [String]
  # @raise [KeyError] for a name that nobody has thought of
  def self.filled(path, library:, things: {})
    thing = things.find { |name, _| path.start_with?("/api/#{name}/") }&.last
    parts = PARTS.merge("library" => library.id, **(thing ? {"id" => thing.id} : {}))
    parts = parts.merge("item" => "0" * 8 + "-0000" * 3 + "-" + "0" * 12) if path.include?("/strips/{item}.png") &&
      path.start_with?("/api/follows/")
    path.gsub(/\{(\w+)\}/) { parts.fetch(_1[1..-2]).to_s }
  end
end
