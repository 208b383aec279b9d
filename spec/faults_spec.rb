# frozen_string_literal: true

require "support/studio"
require "open3"

# What a person may be in the middle of when a process is killed, the database stops at once, or the disk is full: at
# seeded points of each deed. Afterwards it did not happen or is complete, what was told as done is there, and it can be
# done again. FAULTS says how many points of each kind (20 for a long look; left out, one of one kind for five deeds),
# FAULTS_SEED which.
RSpec.describe "cut off anywhere" do
  points = ENV["FAULTS"]&.to_i
  seed = Integer(ENV.fetch("FAULTS_SEED", 18))
  # Work under way, what is of the moment, and what is painted again.
  aside = Fobrel::Backups::Contents::LEFT_OUT.keys

  before(:all) do
    @folder = Dir.mktmpdir("fobrel-faults").tap { FileUtils.chmod(0o755, _1) }
    @cluster = Fobrel::Postgres.new(@folder, careless: true) # no disk is lost here
    prepare
    @input, @output, @thread = Open3.popen2(
      {"FOBREL_VAR" => @folder}, RbConfig.ruby, File.expand_path("support/faulty.rb", __dir__)
    )
  end

  after(:all) do
    @input&.close
    @thread&.value
    Fobrel::Database.connect
    Fobrel::Database.look_anew
    @cluster.stop
    place = File.join(@folder, "postgres.place")
    FileUtils.rm_rf(File.expand_path(File.read(place).strip, @folder)) if File.exist?(place)
    FileUtils.rm_rf(@folder)
  end

  # A studio in which each deed may be done next.
  def prepare
    within("base") do
      Fobrel::Database.migrate
      library, second = Studio.build
      maren = Studio::M::Person.find_by!(login: "maren")
      third = Studio::M::Library.create!(name: "Third")
      third.memberships.create!(person: maren, role: "lead")
      presets = library.presets.in_order.to_a
      bundle = library.bundles.create!(name: "Kit", licence: "CC0-1.0", author: "Maren Oake", description: "Lines.")
      bundle.put_in_order(presets.first(4).map(&:id))
      desk = library.desks.create!(name: "Desk", folder: "desk-faults").tap {
        _1.put_in_order(presets.first(5).map(&:id))
      }
      entry = Fobrel::Actions::TagPresets.call(library:, person: maren, name: "harsh", ids: presets.map(&:id))
      file = ->(wish) { Fobrel::Actions::ExportBrushes.call(library:, person: maren, wish:).io }
      parcel, first, newer = releases(library, presets, maren)
      follow = Fobrel::Actions::BeginToFollow.call(library: @fourth, person: maren, wanted: [[parcel, first]]).first
      @of = {
        "follow" => follow.id,
        "newer" => newer.id,
        "import" => import(second, maren, file[{"kind" => "package", "of" => {"library" => true}}]),
        "backup" => import(third, maren, file[{"kind" => "backup"}]),
        "bundle" => bundle.id,
        "person" => maren.id,
        "desk" => desk.id,
        "library" => library.id,
        "entry" => entry.id,
        "file" => File.join(@folder, "night.zip"),
        "whole" => File.join(@folder, "whole.zip")
      }
      Fobrel::Backups::Write.file(@of["whole"])
    end
  end

  # Two releases: the newer one has another version, one more brush and two less.
  def releases(library, presets, maren)
    @fourth = Studio::M::Library.create!(name: "Fourth")
    @fourth.memberships.create!(person: maren, role: "lead")
    parcel = library.bundles.create!(name: "Parcel", licence: "CC0-1.0", author: "Maren Oake")
    parcel.put_in_order(presets.first(5).map(&:id))
    first = Fobrel::Actions::ReleaseBundle.call(bundle: parcel, person: maren, number: "1.0.0")
    value = presets[0].current_version.value
    changed = value.with("tip", value.to_h["tip"].merge("angle" => 33))
    Fobrel::Actions::AddVersion.call(preset: presets[0], value: changed, person: maren)
    parcel.put_in_order((presets.first(3) + presets.last(1)).map(&:id))
    [parcel, first, Fobrel::Actions::ReleaseBundle.call(bundle: parcel.reload, person: maren, number: "2.0.0")]
  end

  # Read, planned, and about to be imported.
  def import(library, person, io)
    made = Studio::M::Import.create!(library:, person:, name: "kit.zip", source: "dropped")
    Fobrel::Actions::Deliver.add(made, name: "kit.fobrel.zip", io:)
    Fobrel::Actions::Deliver.call(import: made, person:)
    Que::Job.run_synchronously = false
    Fobrel::Actions::Apply.call(import: made.reload, person:, stamp: Studio::M::Import.stamp(made.plan(person)))
    made.id
  ensure
    Que::Job.run_synchronously = true
  end

  def within(name)
    ActiveRecord::Base.connection_handler.clear_all_connections!
    Fobrel::Database.connect(@cluster.start("fobrel_#{name}"))
    yield
  ensure
    ActiveRecord::Base.connection_handler.clear_all_connections!
  end

  def ask(name, sql)
    connection = PG.connect(@cluster.start("fobrel_#{name}"))
    yield connection.exec(sql)
  ensure
    connection&.close
  end

  def fresh(empty)
    ask("base", "SELECT 1") {}
    connection = PG.connect(@cluster.start("postgres"))
    connection.exec("DROP DATABASE IF EXISTS fobrel_try WITH (FORCE)")
    connection.exec("CREATE DATABASE fobrel_try #{"TEMPLATE fobrel_base" unless empty}")
  ensure
    connection&.close
  end

  # Rows of each table, and their sum.
  define_method(:state) do |name|
    tables = ask(name, "SELECT tablename FROM pg_tables WHERE schemaname = 'public' ORDER BY 1") { _1.column_values(0) }
    return {} if tables.empty?
    sql = (tables - aside).map { |table|
      "SELECT '#{table}' AS t, count(*) AS n, md5(coalesce(string_agg(x::text, '|' ORDER BY x::text), '')) AS s " \
        "FROM #{table} x"
    }.join(" UNION ALL ")
    ask(name, sql) { |found| found.to_h { |row| [row["t"], [Integer(row["n"]), row["s"]]] } }
  end

  def counts(state) = state.transform_values(&:first)

  def order(deed, at: 0, how: nil)
    postmaster = Integer(`cat #{File.join(@cluster.place, "postmaster.pid")} 2>/dev/null`.lines.first || 0)
    @input.puts(JSON.generate(deed:, at:, how:, of: @of, url: @cluster.start("fobrel_try"), postmaster:))
    @input.flush
    JSON.parse(@output.gets)
  end

  # The chain of the history, and the order in every set, are whole.
  def sound(name)
    within(name) do
      broken = [nil, *Studio::M::Library.all].flat_map { Fobrel::History::Chain.new(_1).check[:broken] }
      gaps = Studio::M::SetItem.group(:brush_set_id).pluck(Arel.sql("max(position) - count(*)")).uniq - [-1]
      [broken, gaps]
    end
  end

  deeds = {
    "import" => "takes a package in",
    "library" => "restores a library",
    "release" => "releases a bundle",
    "follow" => "takes a release that changes, adds, hides and restores",
    "send" => "sends a plan",
    "many" => "renames all",
    "undo" => "takes a deed back",
    "backup" => "writes a backup of everything",
    "restore" => "restores everything"
  }
  # bin/attack kills tries all of them.
  deeds = deeds.slice("import", "follow", "undo", "restore") unless points
  deeds.each_with_index do |(deed, words), index|
    it "#{words}, or does not" do
      empty = deed == "restore"
      fresh(empty)
      before = state("try")
      whole = order(deed)
      expect(whole["ended"]).to eq("done")
      all = counts(state("try"))
      expect(all).not_to eq(counts(before)) unless deed == "backup"
      chance = Random.new(seed)
      tally = Hash.new(0)
      kinds = %w[kill full database]
      kinds = [kinds[(index + seed) % 3]] unless points
      kinds.each do |how|
        (points || 1).times do
          fresh(empty)
          FileUtils.rm_f(Dir.glob("#{@of["file"]}*"))
          at = 1 + chance.rand(whole["steps"])
          ended = order(deed, at:, how:)["ended"]
          what = "#{deed}: #{how} at step #{at} of #{whole["steps"]}, ended as #{ended}"
          found = state("try")
          done = (deed == "backup") ? File.exist?(@of["file"]) : counts(found) == all
          tally[[how, done]] += 1
          # A restore that was cut off may have left tables, with nobody in them.
          nothing = empty ? found.fetch(
            "people",
            [0]
          ).first.zero? && found.fetch("libraries", [0]).first.zero? : found == before
          expect(done || nothing).to be(true), what
          expect(done).to be(true), what if ended == "done"
          expect(found).to eq(before), what if deed == "backup"
          if deed == "backup" && done
            expect { Fobrel::Backups::Copy.open(@of["file"], &:check) }.not_to raise_error
          end
          expect(sound("try")).to eq([[], []]), what if done && deed != "backup"
          # What a fault leaves behind is in nobody's way.
          next if done
          expect(order(deed)["ended"]).to eq("done"), "#{what}, and again"
          expect(counts(state("try"))).to eq(all), "#{what}, and again"
        end
      end
      warn "#{deed}: #{whole["steps"]} steps; #{tally.map { |(how, done), n|
        "#{how} #{n} × #{done ? "all" : "nothing"}"
      }.join(", ")}"
    end
  end
end
