# frozen_string_literal: true

# Taking in and handing over 1,000 brushes with 300 MB of pictures, on a database of its own, beside what unzip, zip
# and sha256sum take for the same file. See bin/bench and bench/rows.rb.
require_relative "../server/app"
require_relative "../server/postgres"
require_relative "rows"

$stdout.sync = true

module Fobrel
  COUNT = Integer(ENV.fetch("FOBREL_PARTS", 1000))
  # Noise does not pack: a grey picture of this side has this many bytes and some more.
  SIDE = 550

  # In a process of its own, so that its memory does not count; kept for the next run.
  def self.make(path)
    return if File.exist?(path)
    Process.wait(
      fork do
        chance = Random.new(3)
        assets = {}
        items = Array.new(COUNT) do |i|
          noise = Vips::Image.new_from_memory(chance.bytes(SIDE * SIDE), SIDE, SIDE, 1, :uchar)
          png = noise.copy(interpretation: :b_w).pngsave_buffer(compression: 1, filter: 0)
          reference = "sha256:#{Digest::SHA256.hexdigest(png)}"
          assets[reference] = Core::Package::Bundle::Asset.new(bytes: png, ext: "png")
          Core::Package::Bundle::Item.new(
            preset: Core::Preset::Preset.build(
              "Noise #{i}",
              {
                "tip" => {
                  "form" => {"kind" => "picture", "frames" => [reference]},
                  "size" => {"base" => 10 + i % 50}
                }
              }
            ),
            version: 1
          )
        end
        sets = [Core::Package::Bundle::Group.new(name: "All", presets: items.map { _1.preset.id })]
        File.open("#{path}.new", "w+b") {
          Core::Package::Writer.write(Core::Package::Bundle.build(items:, assets:, sets:, name: "Noise"), _1)
        }
        File.rename("#{path}.new", path)
        exit!(0)
      end
    )
  end

  cluster = Postgres.new(File.join(Fobrel.var, "bench"))
  cluster.start("postgres")
  cluster.drop("fobrel_bench_import")
  Dir.mktmpdir("fobrel-bench") do |folder|
    path = File.join(Fobrel.var, "bench-noise-#{COUNT}.fobrel.zip")
    make(path)
    Database.connect(cluster.start("fobrel_bench_import"))
    Database.migrate
    ActiveModel::SecurePassword.min_cost = true
    Que::Job.run_synchronously = true
    Jobs::PaintStrips.define_method(:run) { |*| } # painted apart, below
    person = Models::Person.create!(login: "bench", name: "Bench", password: "a bench of many parts")
    library = Models::Library.create!(name: "Parts")
    library.memberships.create!(person:, role: "lead")

    resident = -> { File.read("/proc/self/status")[/VmRSS:\s+(\d+)/, 1].to_i / 1024 }
    GC.start
    idle = resident.call
    most = idle
    watch = Thread.new { loop { (most = [most, resident.call].max) && sleep(0.02) } }
    clock = -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }
    timed = ->(&work) { clock.call.then { |began| work.call.then { |value| [value, clock.call - began] } } }
    reference = ->(*command) { timed.call { system(*command, out: File::NULL, exception: true) }.last }
    unzip = reference["unzip", "-q", path, "-d", File.join(folder, "unzip")]
    sums = reference["sha256sum", path]
    zip = reference["zip", "-0", "-q", "-r", File.join(folder, "again.zip"), File.join(folder, "unzip")]
    cpu = -> { Process.clock_gettime(Process::CLOCK_PROCESS_CPUTIME_ID) }
    # Judged by brushes time: much of the work is the database's, which is another process.
    row = lambda do |name, wanted, beside, said, &work|
      Rows.row(name, "×", wanted) do
        used = cpu.call
        _, seconds = timed.call(&work)
        Rows::Found.new(
          value: seconds / beside,
          brushes: seconds * 1e3,
          cpu: (cpu.call - used) * 1e3,
          beside: beside * 1e3,
          more: said
        )
      end
    end
    puts "", "#{COUNT} brushes with #{File.size(path) / 1_000_000} MB of pictures", "-" * 70

    bring = lambda do |name, io|
      import = Models::Import.create!(library:, person:, name:, source: "dropped")
      Actions::Deliver.add(import, name: "#{name}.fobrel.zip", io:)
      Actions::Deliver.call(import:, person:)
      [import.reload, import.plan(person)]
    end
    import = nil
    row.call("taking in: plan and apply", 2.0, unzip + sums, "unzip + sha256sum") do
      import, rows = File.open(path, "rb") { bring["noise", _1] }
      raise "not all are new" unless rows.map(&:decision).tally == {"take" => COUNT}
      Actions::Apply.call(import:, person:, stamp: Models::Import.stamp(rows))
      raise "not imported" unless library.presets.count == COUNT && import.reload.state == "applied"
    end
    # One strip stands for all: painting is measured in bench/strokes.rb.
    strip = Models::KeptStrip.png_of(library.presets.first.current_version.value, "list")
    Models::KeptStrip.insert_all(
      library.presets.pluck(:fingerprint).map {
        {fingerprint: _1, shape: "list", version: Core::Stroke::Strip::VERSION, png: strip}
      }
    )
    export = ->(wish) { Actions::ExportBrushes.call(library:, person:, wish: wish.merge("name" => "Noise")) }
    out = nil
    row.call("handing over: a package", 2.0, zip + sums, "zip -0 + sha256sum; it is read back too") do
      out = export["kind" => "package", "of" => {"library" => true}]
    end
    row.call("handing over: a backup", 2.0, zip + sums, "zip -0 + sha256sum; it is read back too") do
      export["kind" => "backup"]
    end
    row.call("a plan of what is here already", 2.0, unzip + sums, "unzip + sha256sum") do
      _, rows = bring["again", out.io]
      raise "something is doubled" unless rows.map(&:state).tally == {"identical" => COUNT}
    end
    row.call("undo of taking in", 2.0, unzip + sums, "unzip + sha256sum") do
      Actions::Undo.call(entry: import.history_entry)
      raise "not taken back" unless library.presets.none?
    end
    watch.kill
    Rows.row("memory while taking in and out, above idle", "MB", 500.0) {
      Rows::Found.new(value: (most - idle).to_f, more: "#{idle} MB idle")
    }
  end
ensure
  ActiveRecord::Base.connection_handler.clear_all_connections!
  cluster&.stop
end
Fobrel::Rows.end
