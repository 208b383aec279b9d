# frozen_string_literal: true

# Run as a process of its own by cut_off_spec: an import of two brushes is to be imported, and the
# places in sets are held, so that the work stops half-way: brushes written, nothing committed.
# Says "held", lets go on the first line it is told, says what there is on the second.
require_relative "../../server/boot"
module Fobrel
  Database.connect
  Database.migrate
  M = Models
  ActiveModel::SecurePassword.min_cost = true
  person = M::Person.create!(login: "half", name: "Half Way", password: "half of the way")
  library = M::Library.create!(name: "Half")
  library.memberships.create!(person:, role: "lead")
  brushes = Array.new(2) { |i|
    Core::Preset::Preset.build("Half #{i}", {"tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 5 + i}}})
  }
  items = brushes.map { Core::Package::Bundle::Item.new(preset: _1, version: 1) }
  bytes = Core::Package::Writer.zip(
    Core::Package::Bundle.build(
      items:,
      assets: {},
      sets: [Core::Package::Bundle::Group.new(name: "Kit", presets: brushes.map(&:id))]
    )
  )
  import = M::Import.create!(library:, person:, name: "half.zip", source: "dropped")
  Que::Job.run_synchronously = true
  Actions::Deliver.add(import, name: "half.zip", io: StringIO.new(bytes))
  Actions::Deliver.call(import:, person:)
  Que::Job.run_synchronously = false
  Actions::Apply.call(import: import.reload, person:, stamp: M::Import.stamp(import.plan(person)))
  $stdout.sync = true
  begin
    M::Record.transaction do
      M::Record.connection.execute("LOCK TABLE set_items IN SHARE MODE")
      puts "held"
      $stdin.gets
      raise ActiveRecord::Rollback
    end
  rescue ActiveRecord::ActiveRecordError
    nil # the database was killed
  end
  puts "free"
  $stdin.gets
end
