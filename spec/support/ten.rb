# frozen_string_literal: true

# Run as a process of its own by cut_off_spec: nine imports wait to be read, and before them a deadly one.
require_relative "../../server/boot"

module Fobrel
  Database.connect
  Database.migrate
  ActiveModel::SecurePassword.min_cost = true
  person = Models::Person.create!(login: "nine", name: "Nine", password: "nine of ten go on")
  library = Models::Library.create!(name: "Ten")
  library.memberships.create!(person:, role: "lead")
  ["deadly", *Array.new(9) { "good #{_1}" }].each do |name|
    import = Models::Import.create!(library:, person:, name:, source: "dropped")
    document = Core::Preset::Preset.build(
      name,
      {"tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 5}}}
    ).to_h
    Actions::Deliver.add(import, name: "#{name}.json", io: StringIO.new(JSON.generate(document).b))
    Actions::Deliver.call(import:, person:)
  end
end
