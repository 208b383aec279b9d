# frozen_string_literal: true

# Taking in and handing over 1,000 brushes with 300 MB of pictures, on a database of its own, as
# ratios to what unzip and sha256sum take for the same file. See bin/bench.
require_relative "../server/app"
require_relative "../server/postgres"
require "open3"

$stdout.sync = true

module Fobrel
  COUNT = Integer(ENV.fetch("FOBREL_PARTS", 1000))
  # Noise does not pack: a grey picture of this side has this many bytes and some more.
  SIDE = 550

  # In a process of its own, so that its memory does not count.
  def self.make(path)
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
                "mark" => {
                  "tip" => {"kind" => "picture", "frames" => [reference]},
                  "size" => {"base" => 10 + i % 50}
                }
              }
            ),
            edition: 1
          )
        end
        sets = [Core::Package::Bundle::Group.new(name: "All", presets: items.map { _1.preset.id })]
        File.open(path, "w+b") {
          Core::Package::Writer.write(Core::Package::Bundle.build(items:, assets:, sets:, name: "Noise"), _1)
        }
        exit!(0)
      end
    )
  end

  cluster = Postgres.new(File.join(Fobrel.var, "bench"))
  cluster.start("postgres")
  cluster.drop("fobrel_bench_intake")
  Dir.mktmpdir("fobrel-bench") do |folder|
    path = File.join(folder, "noise.fobrel.zip")
    make(path)
    Database.connect(cluster.start("fobrel_bench_intake"))
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
    _, unzip = timed.call { system("unzip", "-q", path, "-d", File.join(folder, "unzip"), exception: true) }
    _, sums = timed.call { Open3.capture2("sha256sum", path) }
    puts "",
      "#{COUNT} brushes with #{File.size(path) / 1_000_000} MB of pictures (unzip #{unzip.round(2)} s, sha256sum " \
        "#{sums.round(2)} s)",
      "-" * 70
    tell = ->(what, seconds, wanted) {
      puts format(
        "%-46s %5.1f s (wanted %2d), %5.1f × unzip, %5.1f × sha256sum",
        what,
        seconds,
        wanted,
        seconds / unzip,
        seconds / sums
      )
    }

    arrival = Models::Arrival.create!(library:, person:, name: "noise", source: "dropped")
    rows, seconds = timed.call do
      File.open(path, "rb") { Actions::Deliver.add(arrival, name: "noise.fobrel.zip", io: _1) }
      Actions::Deliver.call(arrival:, person:)
      arrival.reload.plan(person)
    end
    raise "not all are new" unless rows.map(&:decision).tally == {"take" => COUNT}
    tell.call("plan: kept, read, checked, held against the library", seconds, 15)
    _, seconds = timed.call { Actions::Apply.call(arrival:, person:, stamp: Models::Arrival.stamp(rows)) }
    raise "not taken in" unless library.presets.count == COUNT && arrival.reload.state == "applied"
    tell.call("apply: in one transaction", seconds, 30)
    # One strip stands for all: painting is measured in bench.rb.
    strip = Models::KeptStrip.png_of(library.presets.first.current_edition.value, "wall")
    Models::KeptStrip.insert_all(
      library.presets.pluck(:fingerprint).map {
        {fingerprint: _1, shape: "wall", version: Core::Stroke::Strip::VERSION, png: strip}
      }
    )
    out, seconds = timed.call {
      Actions::ExportBrushes.call(
        library:,
        person:,
        wish: {"kind" => "package", "of" => {"library" => true}, "name" => "Noise"}
      )
    }
    tell.call("export: a package of all, its strips painted before", seconds, 20)
    _, seconds = timed.call {
      Actions::ExportBrushes.call(library:, person:, wish: {"kind" => "backup", "name" => "Noise"})
    }
    tell.call("export: a backup of the library", seconds, 20)
    again = Models::Arrival.create!(library:, person:, name: "again", source: "dropped")
    rows, seconds = timed.call do
      Actions::Deliver.add(again, name: "again.fobrel.zip", io: out.io)
      Actions::Deliver.call(arrival: again, person:)
      again.reload.plan(person)
    end
    raise "something is doubled" unless rows.map(&:state).tally == {"identical" => COUNT}
    tell.call("plan of what is here already", seconds, 15)
    entry = arrival.ledger_entry
    _, seconds = timed.call { Actions::Undo.call(entry:) }
    raise "not taken back" unless library.presets.none?
    tell.call("undo of the import", seconds, 30)
    watch.kill
    puts format("memory: %d MB idle, at most %d MB above that while taking in and out (wanted 500)", idle, most - idle)
  end
ensure
  ActiveRecord::Base.connection_handler.clear_all_connections!
  cluster&.stop
end
