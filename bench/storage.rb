# frozen_string_literal: true

# What a server that is left alone keeps: size of the database, rows and files before, after 50 imports
# undone, 50 uploads cut off and 40,000 things planned and left, and after a night's cleaning. On a
# database of its own. See bin/bench.
require_relative "../server/app"
require_relative "../server/postgres"

$stdout.sync = true

module Fobrel
  IMPORTS = Integer(ENV.fetch("FOBREL_IMPORTS", 50))
  PLANNED = Integer(ENV.fetch("FOBREL_PLANNED", 40_000))
  BRUSHES = 12
  # Noise does not pack: about as many bytes as a square of this side has.
  SIDE = 300

  cluster = Postgres.new(File.join(ENV["FOBREL_BENCH"] || Fobrel.var, "bench"))
  cluster.start("postgres")
  cluster.drop("fobrel_bench_storage")
  ENV["FOBREL_VAR"] = Dir.mktmpdir("fobrel-bench")
  Database.connect(cluster.start("fobrel_bench_storage"))
  Database.migrate
  ActiveModel::SecurePassword.min_cost = true
  Que::Job.run_synchronously = true

  person = Models::Person.create!(login: "bench", name: "Bench", password: "a bench that is kept up")
  library = Models::Library.create!(name: "Kept")
  library.memberships.create!(person:, role: "lead")
  connection = ActiveRecord::Base.connection
  now = -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }

  chance = Random.new(5)
  package = lambda do |name|
    assets = {}
    items = Array.new(BRUSHES) do |index|
      png = Vips::Image.new_from_memory(
        chance.bytes(SIDE * SIDE),
        SIDE,
        SIDE,
        1,
        :uchar
      ).copy(interpretation: :b_w).pngsave_buffer(compression: 1)
      assets[reference = "sha256:#{Digest::SHA256.hexdigest(png)}"] =
        Core::Package::Bundle::Asset.new(bytes: png, ext: "png")
      Core::Package::Bundle::Item.new(
        preset: Core::Preset::Preset.build(
          "#{name} #{index}",
          {"tip" => {"form" => {"kind" => "picture", "frames" => [reference]}, "size" => {"base" => 10 + index}}}
        ),
        version: 1
      )
    end
    StringIO.new("".b).tap { |io|
      Core::Package::Writer.write(Core::Package::Bundle.build(items:, assets:, sets: [], name:), io)
    }.tap(&:rewind)
  end
  bring = lambda do |name, file, io, read: true|
    import = Models::Import.create!(library:, person:, name:, source: "dropped")
    Actions::Deliver.add(import, name: file, io:)
    Actions::Deliver.call(import:, person:) if read
    import.reload
  end
  take = ->(import) {
    Actions::Apply.call(import:, person:, stamp: Models::Import.stamp(import.plan(person))) && import.reload
  }

  # What a studio has that works with it.
  3.times { |index| take[bring["Kept #{index}", "kept.fobrel.zip", package["Kept #{index}"]]] }
  connection.execute("VACUUM (ANALYZE)")

  tables = connection.tables
  measure = lambda do
    {
      bytes: Models::Cleaning.size,
      rows: tables.sum { |table|
        connection.select_value("SELECT count(*) FROM #{table}")
      },
      files: Dir.glob(File.join(Fobrel.var, "**", "*")).count {
        File.file?(_1)
      } + Dir.glob(File.join(Dir.tmpdir, "fobrel-a*")).size
    }
  end
  tell = ->(what, found) {
    puts format("%-46s %8.1f MB %9d rows %6d files", what, found[:bytes] / 1e6, found[:rows], found[:files])
  }

  puts "",
    "A server that is left alone: #{IMPORTS} imports undone, #{IMPORTS} uploads cut off, #{PLANNED} things planned " \
      "and left",
    "-" * 90
  start = measure.call
  tell["at the start", start]
  IMPORTS.times do |index|
    import = take[bring["Import #{index}", "i.fobrel.zip", package["Import #{index}"]]]
    Actions::Undo.call(entry: import.history_entry)
    bring["Cut off #{index}", "c.fobrel.zip", package["Cut off #{index}"], read: false]
  end
  base = Core::Preset::Preset.build("Plan", {"tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 10}}}).to_h
  (PLANNED / 2000).times do |index|
    list = Array.new(2000) { |place| base.merge("id" => SecureRandom.uuid, "name" => "Plan #{index} #{place}") }
    bring["Plan #{index}", "list.json", StringIO.new(JSON.generate(list).b)]
  end
  full = measure.call
  tell["after all of it", full]
  # A quarter of a year goes by.
  %w[imports tasks assets history_entries replies].each { |table|
    connection.execute(
      "UPDATE #{table} SET created_at = created_at - interval '400 " \
        "days'#{", updated_at = updated_at - interval '400 days'" if %w[imports tasks].include?(table)}"
    )
  }
  began = now.call
  cleaning = Models::Cleaning.create!.run
  spent = now.call - began
  after = measure.call
  tell["after a night's cleaning", after]
  puts format("cleaned in %.1f s: %s", spent, cleaning.took.map { |key, count| "#{key} #{count}" }.join(", "))
  puts format(
    "beside the start: %+.1f %% of the database, %+d rows, %+d files (wanted within 10 %%)",
    100.0 * (after[:bytes] - start[:bytes]) / start[:bytes],
    after[:rows] - start[:rows],
    after[:files] - start[:files]
  )
  raise "brushes are missing" unless library.presets.count == 3 * BRUSHES
  library.presets.each { |preset| Models::KeptStrip.png_of(preset.current_version.value, "list") }
ensure
  ActiveRecord::Base.connection_handler.clear_all_connections!
  cluster&.stop
  FileUtils.rm_rf(ENV["FOBREL_VAR"]) if ENV["FOBREL_VAR"].to_s.include?("fobrel-bench")
end
