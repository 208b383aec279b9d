# frozen_string_literal: true

require "support/studio"
require "support/command"
require "open3"

# A backup of the whole studio: one file, checked to the byte, that comes back as it was or not at all.
RSpec.describe Fobrel::Backups, :command do
  before(:all) do
    Studio.clear
    @library, = Studio.build
    odd
  end

  after(:all) { Studio.clear }

  let(:file) { File.expand_path("all.fobrel-studio.zip") }

  # What CSV, COPY and JSON each write in a way of their own.
  def odd
    maren = Studio::M::Person.find_by!(login: "maren")
    presets = @library.presets.in_order.to_a
    ["a,b", "a \"b\"", "c:\\new\\table", "\\N", "\\.", "two\r\nlines", "NULL", "a   b", "ß – 墨 🖌"].each do |text|
      Studio::M::Comment.new(library: @library, person: maren, about: "preset", about_id: presets[0].id, text:)
        .save!(validate: false)
    end
    Studio::M::Preset.connection.execute("UPDATE libraries SET description = '' WHERE id = #{@library.id}")
    Studio::M::AccessToken.issue(maren, "script", library: nil, scope: "read")
    bundle = @library.bundles.create!(name: "Coast", licence: "CC0-1.0", author: "Maren Oake", description: "Waves.")
    bundle.put_in_order(presets.first(3).map(&:id))
    Fobrel::Actions::ReleaseBundle.call(bundle:, person: maren, number: "1.0.0", notes: "first")
    desk = @library.desks.create!(name: "Desk", folder: "desk-whole")
    desk.put_in_order(presets.first(2).map(&:id))
    Fobrel::Actions::SendToDesk.call(desk:, person: maren)
    bytes = Random.new(3).bytes(5000)
    Studio::M::DeskPlan.keep(Digest::SHA256.hexdigest(bytes), bytes)
  end

  # Not as a backup reads them: every row as PostgreSQL writes it as one text.
  def rows(except: Fobrel::Backups::Contents::LEFT_OUT.keys)
    connection = Studio::M::Record.connection
    (connection.tables - except).sort.to_h { |table|
      [
        table,
        connection.select_value("SELECT md5(coalesce(string_agg(t::text, '|' ORDER BY t::text), '')) FROM #{table} t")
      ]
    }
  end

  def in_scratch(&) = Fobrel::Backups::Scratch.within(&)

  def restored(path = file)
    in_scratch do
      Fobrel::Backups::Copy.open(path) { |copy| Fobrel::Backups::Restore.call(copy) }
      yield
    end
  end

  it "knows every table that it leaves out, and keeps all others" do
    tables = Studio::M::Record.connection.tables
    left = Fobrel::Backups::Contents::LEFT_OUT.keys
    expect(left + Fobrel::Backups::Contents::SECRET - tables).to eq([])
    expect(fobrel("backup", "--all", "-o", file)[2]).to eq(0)
    kept = Fobrel::Backups::Copy.open(file) { _1.description["tables"].keys }
    expect(kept).to match_array(tables - left - Fobrel::Backups::Contents::SECRET)
  end

  it "comes back row by row and byte by byte, pictures in pieces too" do
    stub_const("Fobrel::Backups::Reading::PIECE", 300)
    stub_const("Fobrel::Backups::Write::PART", 2000)
    before = rows
    expect(fobrel("backup", "--all", "--with-passwords", "-o", file)[2]).to eq(0)
    expect(restored { rows }).to eq(before)
    expect(rows).to eq(before)
    expect(`sha256sum -c #{File.basename(file)}.sha256 2>&1`).to include("OK")
    names = `unzip -Z1 #{file}`.lines(chomp: true)
    expect(names.grep(%r{\Atables/presets/}).size).to be > 1
    sum = Studio::M::Asset.first.sha256
    picture = Open3.capture2(
      "unzip",
      "-p",
      file,
      names.grep(%r{\Afiles/assets/bytes/#{sum}}).first,
      binmode: true
    ).first
    expect(Fobrel::Core::Sum.of(picture)).to eq(sum)
  end

  it "gives numbers that were given once to nothing else" do
    last = Studio::M::Tag.maximum(:id)
    Studio::M::Tag.create!(library: @library, name: "goes", colour: "moss", shape: "ring").destroy!
    fobrel("backup", "--all", "-o", file)
    restored do
      made = Studio::M::Tag.create!(library: Studio::M::Library.first, name: "comes", colour: "moss", shape: "ring")
      expect(made.id).to be > last + 1
    end
  end

  it "takes neither passwords nor tokens along unless it is told to" do
    fobrel("backup", "--all", "-o", file)
    text = `unzip -p #{file} 'tables/*'`
    expect(text).not_to include(Studio::M::Person.first.password_digest)
    expect(text).not_to include(Studio::M::AccessToken.first.digest)
    restored do
      person = Studio::M::Person.find_by!(login: "maren")
      expect([Studio::PASSWORD, "", nil].map { |word| person.authenticate(word) }).to eq([false] * 3)
      expect(Studio::M::AccessToken.count).to eq(0)
      ENV["DATABASE_URL"], before = Studio::M::Record.connection_db_config.url, ENV["DATABASE_URL"]
      $stdin = StringIO.new("five grey herons wade\n")
      expect(fobrel("password", "MAREN")).to match([/Maren Oake signs in with the new/, "", 0])
      $stdin = StringIO.new("short\n")
      expect(fobrel("password", "maren")).to match(["", /Nothing was changed/, 1])
      expect(fobrel("password", "nobody")).to match(["", /Nobody signs in as “nobody”: ilse, maren, tove/, 1])
      Fobrel::Database.connect
      expect(Studio::M::Person.find_by!(login: "maren").authenticate("five grey herons wade")).to be_truthy
    ensure
      $stdin = STDIN
      ENV["DATABASE_URL"] = before
    end
  end

  it "is of one moment, whatever comes meanwhile" do
    count = Studio::M::Tag.count
    late = lambda do |done, _|
      next unless done == 3
      Thread.new { Studio::M::Tag.create!(library: @library, name: "late", colour: "moss", shape: "ring") }.join
    end
    Fobrel::Backups::Write.file(file, progress: late)
    expect(Studio::M::Tag.count).to eq(count + 1)
    expect(restored { Studio::M::Tag.count }).to eq(count)
  ensure
    Studio::M::Tag.where(name: "late").delete_all
  end

  it "finds any byte that was changed, and one that is missing" do
    fobrel("backup", "--all", "-o", file)
    good = File.binread(file)
    chance = Random.new(18)
    60.times do
      bad = good.dup
      at = chance.rand(bad.bytesize)
      bad.setbyte(at, bad.getbyte(at) ^ (1 << chance.rand(8)))
      File.binwrite(file, bad)
      expect(fobrel("verify", file)).to match(["", /Nothing was changed/, 1]), "byte #{at}"
    end
    File.binwrite(file, good.byteslice(0, good.bytesize - 1))
    expect(fobrel("verify", file)[2]).to eq(1)
    File.binwrite(file, good)
    expect(fobrel("verify", file)).to match([/every byte is as it was written on 20/, "", 0])
  end

  # Without the sum beside it, what it holds is held against what it says of itself.
  it "finds what was changed and packed again" do
    fobrel("backup", "--all", "-o", file)
    FileUtils.rm("#{file}.sha256")
    entries = Fobrel::Core::Package::Archive.read(File.binread(file))
    other = {
      "rows" => ["tables/people/0001.csv", /other rows of people/],
      "picture" => [entries.keys.grep(%r{\Afiles/assets}).first, /other files of assets/]
    }
    other.each_value do |path, sentence|
      changed = entries.merge(path => entries[path].sub(/.\z/m) { |last| (last.ord ^ 1).chr })
      File.binwrite(file, Fobrel::Core::Package::Writer.pack(changed))
      expect(fobrel("verify", file)[1]).to match(sentence)
    end
    File.binwrite(file, Fobrel::Core::Package::Writer.pack(entries.merge("files/nothing/x/1" => "stray")))
    expect(fobrel("verify", file)[1]).to include("what no table speaks of")
  end

  it "refuses what is none, or what would be more than a studio" do
    fobrel("backup", "--all", "-o", file)
    FileUtils.rm("#{file}.sha256")
    entries = Fobrel::Core::Package::Archive.read(File.binread(file))
    said = JSON.parse(entries["studio.json"])
    pack = ->(files) { File.binwrite("bad.zip", Fobrel::Core::Package::Writer.pack(files)) }
    wrong = ->(&change) { entries.merge("studio.json" => JSON.generate(said.deep_dup.tap(&change))) }
    {
      {"a" => "b"} => /not a backup of a whole studio/,
      entries.merge("studio.json" => "{") => /not JSON/,
      wrong.call { _1["tables"]["people; DROP TABLE people"] = _1["tables"]["people"] } => /does not read/,
      wrong.call { _1["tables"]["people"]["columns"] << "x\") FROM '/etc/passwd" } => /does not read/,
      wrong.call { _1["tables"]["pg_authid"] = _1["tables"].delete("people") } => /lacks|no table speaks/,
      wrong.call { _1["tables"].delete("recents") } => /no table speaks|not have the tables/,
      wrong.call { _1["version"] << "20990101000001" } => /newer Fobrel/,
      entries.except("tables/tags/0001.csv") => /lacks/
    }.each do |files, sentence|
      pack[files]
      expect(fobrel("restore", "bad.zip", "--test")).to match(["", sentence, 1])
    end
    File.write("bad.zip", "PK")
    expect(fobrel("restore", "bad.zip", "--test")).to match(["", /not a ZIP file/, 1])
    expect(fobrel("restore", "nowhere.zip", "--test")[2]).to eq(1)
  end

  describe "with new sums beside new rows" do
    # Changes what one row says and writes the sums anew, as whoever is hostile would.
    #
    # @param files [Hash{String => String}] of a backup
    # @return [String] where the forged backup is
    def forged(files, table)
      name = "tables/#{table}/0001.csv"
      before = files[name].dup.force_encoding("UTF-8")
      after = yield(before)
      expect(after).not_to eq(before)
      told = JSON.parse(files["studio.json"])
      rows = after.lines.drop(1).join
      told["tables"][table].merge!("size" => rows.bytesize, "sha256" => Digest::SHA256.hexdigest(rows))
      forged = files.merge(name => after.b, "studio.json" => JSON.generate(told))
      File.expand_path("forged.fobrel-studio.zip").tap { File.binwrite(_1, Fobrel::Core::Package::Writer.pack(forged)) }
    end

    def unzipped(path)
      Dir.mktmpdir do |folder|
        system("unzip", "-q", "-o", path, "-d", folder, exception: true)
        files = Dir.glob("**/*", base: folder).select { |name| File.file?("#{folder}/#{name}") }
        files.to_h { |name| [name, File.binread("#{folder}/#{name}")] }
      end
    end

    forgeries = {
      "a desk's folder that leads out" =>
        ["desks", ->(rows) { rows.sub("desk-whole", "../../x") }, /desks \d+: Folder/],
      "a role that nobody has" => ["memberships", ->(rows) { rows.sub(/\bguest\b/, "owner") }, /memberships/],
      "a login that looks like another" =>
        ["people", ->(rows) { rows.sub(/\bmaren\b/, "m\u0430ren") }, /people \d+: Login/],
      "a version that is not what it is found by" =>
        ["versions", ->(rows) { rows.sub('""opacity"": 1', '""opacity"": 0.9') }, /version \d+: its fingerprint/],
      "a plan that writes elsewhere" =>
        ["desk_plans", ->(rows) { rows.gsub("startup/0", "startupX0") }, /start-up plan \d+: What the server sent/]
    }

    it "refuses #{forgeries.keys.join(", ")}, and keeps nothing of them" do
      fobrel("backup", "--all", "-o", file)
      files = unzipped(file)
      in_scratch do
        forgeries.each do |what, (table, change, sentence)|
          path = forged(files, table, &change)
          expect { Fobrel::Backups::Copy.open(path) { |copy| Fobrel::Backups::Restore.call(copy) } }
            .to raise_error(Fobrel::Core::Problem, sentence), what
          expect([Studio::M::Person.count, Studio::M::Desk.count, Studio::M::Preset.count]).to eq([0, 0, 0])
        end
      end
    end
  end

  it "never goes over a studio that is there, and comes into one of an earlier version" do
    fobrel("backup", "--all", "-o", file)
    expect(fobrel("restore", file)).to match(["", /There is a studio in this database already/, 1])
    old = File.expand_path("old.zip")
    in_scratch do
      context = ActiveRecord::MigrationContext.new(File.join(Fobrel::ROOT, "db/migrate"))
      ActiveRecord::Migration.verbose = false
      context.migrate(20_261_202_000_009)
      Studio::M::Record.connection.execute(
        "INSERT INTO people (name, login, password_digest, created_at, updated_at) " \
          "VALUES ('O', 'old', 'x', now(), now())"
      )
      Fobrel::Backups::Write.file(old)
    end
    restored(old) do
      expect(Studio::M::Person.pluck(:login)).to eq(["old"])
      expect(ActiveRecord::MigrationContext.new(File.join(Fobrel::ROOT, "db/migrate")).needs_migration?).to be(false)
    end
  end

  it "gives one library, or one brush, as a package that Import reads" do
    fobrel("backup", "--all", "-o", file)
    name = @library.presets.in_order.first.name
    expect(fobrel("restore", file, "--library", @library.name, "-o", "one.zip")[2]).to eq(0)
    bundle = Fobrel::Core::Package::Reader.read(File.binread("one.zip"))
    expect(bundle.presets.map(&:id)).to match_array(@library.presets.pluck(:document_id))
    expect(bundle.backup.library["bundles"].map { _1["name"] }).to eq(["Coast"])
    expect(fobrel("restore", file, "--brush", name.upcase, "-o", "brush.zip")[2]).to eq(0)
    expect(Fobrel::Core::Package::Reader.read(File.binread("brush.zip")).presets.map(&:name)).to eq([name])
    expect(fobrel("restore", file, "--brush", "nosuch", "-o", "none.zip")).to match(["", /no brush “nosuch”/, 1])
    expect(File.exist?("none.zip")).to be(false)
    names = Studio::M::Record.connection.select_values("SELECT datname FROM pg_database WHERE datname LIKE '%scratch%'")
    expect(names).to eq([])
  end

  describe "of the night" do
    around do |example|
      ENV["FOBREL_BACKUPS"] = File.expand_path("nights")
      example.run
    ensure
      ENV.delete("FOBREL_BACKUPS")
    end

    it "is made, restored as a test and told" do
      made = Fobrel::Jobs::BackUpStudio.begin.reload
      expect([made.problem, made.test_problem]).to eq([nil, nil])
      expect(made.attributes.values_at("size", "rows", "tried_at", "ended_at")).to all(be_truthy)
      expect(fobrel("verify", File.join("nights", made.file))[2]).to eq(0)
      expect(made.there?).to be(true)
      expect(File.stat("nights").mode & 0o777).to eq(0o700)
    end

    it "is not told as gone wrong when its test was cut off, which is repeated later" do
      made = Fobrel::Models::StudioBackup.begin
      allow(made).to receive(:program).and_wrap_original do |program, *words|
        (words.first == "restore") ? {"problem" => "It ended by itself.", "cut_off" => true} : program.call(*words)
      end
      expect([made.make, made.there?]).to eq([false, true])
      expect(made.reload).to have_attributes(problem: nil, test_problem: nil, tried_at: nil, ended_at: be_truthy)
      # Done again it tries, and makes no second file.
      size = File.mtime(made.send(:path))
      expect(Fobrel::Models::StudioBackup.find(made.id).try).to be(true)
      expect([made.reload.test_problem, made.tried_at.nil?, File.mtime(made.send(:path))]).to eq([nil, false, size])
    end

    it "is told when it cannot be, once at a time" do
      File.write("nights", "in the way")
      made = Fobrel::Jobs::BackUpStudio.begin.reload
      expect(made).to have_attributes(made_at: nil, problem: /The folder of backups/, ended_at: be_truthy)
      Studio::M::StudioBackup.begin
      expect { Studio::M::StudioBackup.begin }.to raise_error(Fobrel::Core::Problem, /being made already/)
    ensure
      Studio::M::StudioBackup.delete_all
    end

    # Common practice, no source: seven days, four weeks, twelve months.
    it "stays for seven days, four weeks and twelve months, and nothing else is touched" do
      FileUtils.mkdir_p("nights")
      File.write("nights/mine.zip", "kept")
      # Of another studio, on a day that ours has one of too.
      File.write("nights/fobrel-0123abcd-2026-05-15T020000Z.fobrel-studio.zip", "kept")
      folder = Fobrel::Backups::Folder.here
      day = Time.utc(2025, 1, 1, 3)
      500.times do |n|
        name = folder.name(day + (n * 86_400))
        File.write(File.join("nights", name), "x")
        File.write(File.join("nights", "#{name}.sha256"), "x")
        folder.prune
      end
      days = folder.backups.values.map { _1.strftime("%F") }
      last = (day + (499 * 86_400)).to_date
      expect(days.first(7)).to eq(Array.new(7) { (last - _1).to_s })
      # Worked out by hand from the calendar: the last is a Friday, the Sunday before is among the seven; two Sundays
      # and the last days of eleven months.
      expect(days).to include("2026-05-10", "2026-05-03", "2026-04-26", "2026-04-30", "2026-03-31", "2025-06-30")
      expect(days).not_to include("2025-05-31", "2026-05-02", "2026-04-19")
      expect(days.size).to eq(7 + 2 + 11)
      expect(Dir.children("nights").size).to eq((days.size * 2) + 2)
    end
  end
end
