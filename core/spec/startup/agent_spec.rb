# frozen_string_literal: true

require_relative "../support/desk"

# The agent cut off, lied to, and in others' way.
RSpec.describe Fobrel::Core::Startup::Agent do
  include DeskHelp

  def folder = Fobrel::Core::Startup::Folder.new(@desk)

  # Everything that a painting program or a person sees there.
  def seen
    Fobrel::Core::Startup::Folder::ROOT.flat_map { |name|
      at = "#{@desk}/#{name}"
      next File.file?(at) ? [[name, File.binread(at)]] : [] unless File.directory?(at)
      names(name).map { ["#{name}/#{_1}", File.binread("#{at}/#{_1}")] }
    }.to_h
  end

  # Pulls in a process of its own, which is killed at a step.
  def killed_at(step, number)
    count = 0
    pid = fork do
      step_on = ->(_) { Process.kill(:KILL, Process.pid) if (count += 1) == step }
      agent(number, step: step_on).pull(repair: true)
      exit!(0)
    end
    Process.wait(pid)
    $?.signaled?
  end

  it "has the old state or the new one, wherever it is killed, and leaves nothing lying" do
    FileUtils.mkdir_p("#{@desk}/startup")
    File.write("#{@desk}/startup/own.json", JSON.generate(ink.to_h))
    lists = {1 => [[rope, "startup", "5"], [fog, "shelf"]], 2 => [[fog, "startup"], [ink, "startup"], [rope, "shelf"]]}
    @tables = lists.to_h { |number, list| [number, table(number, *list)] }
    whole = lists.keys.to_h { |number|
      [
        number,
        Dir.mktmpdir { |other|
          FileUtils.cp_r("#{@desk}/.", other)
          described_class.new(other, @tables[number]).pull
          was, @desk = @desk, other
          seen.except("start.json").tap { @desk = was }
        }
      ]
    }
    before = {"startup/own.json" => JSON.generate(ink.to_h)}
    points = 0
    lists.each_key do |number|
      (1..40).each do |step|
        start = Dir.mktmpdir
        FileUtils.cp_r("#{@desk}/.", start)
        was, @desk = @desk, start
        struck = killed_at(step, number)
        points += 1 if struck
        there = Fobrel::Core::Startup::Folder.new(@desk).plan&.fetch("plan")
        now = seen.except("start.json", "READ ME.txt").select { |name, _| name.start_with?("startup/", "shelf/") }
        states = [(number == 1) ? before : whole[1], whole[number]].map { |one|
          one.select { |name, _|
            name.start_with?("startup/", "shelf/")
          }
        }
        expect(states).to include(now), "killed at #{step} of plan #{number}, which has #{there}: #{now.keys}"
        agent(number).pull(repair: true)
        expect(seen.except("start.json")).to eq(whole[number])
        left = Dir.glob("#{@desk}/**/{*.making,*.next,*.part,.fobrel-link-*}", File::FNM_DOTMATCH)
        expect([left, Dir.exist?("#{@desk}/.fobrel/incoming"), drift.any?]).to eq([[], false, false])
        @desk = was
        FileUtils.rm_rf(start)
        break unless struck
      end
      agent(number).pull
    end
    expect(points).to be >= 20
  end

  it "fetches what changed and nothing else; asks nothing where nothing is newer" do
    many = Array.new(60) { |n|
      Preset[round_preset(size: 10 + n).to_h.merge("name" => "Brush #{n}", "id" => SecureRandom.uuid)]
    }
    pull(1, *many.map { [_1, "startup"] })
    changed = many.each_with_index.map { |one, at|
      [7, 30, 59].include?(at) ? one.with("stroke", "spacing" => 0.5) : one
    }
    done = pull(2, *changed.map { [_1, "startup"] })
    # Those three, and the words that name the plan.
    expect([done.fetched, @tables[2].given.size]).to eq([4, 4])
    expect(agent(2).pull.swapped).to be(false)
    expect(@tables[2].given.size).to eq(4)
    # In another order only: the numbers change, no content does.
    expect(pull(3, *changed.reverse.map { [_1, "startup"] }).fetched).to eq(1)
  end

  it "works on while the server is away, and goes on where a file was cut off" do
    pull(1, [fog, "startup"])
    away = Class.new { def plan(_) = raise(Fobrel::Core::Startup::Agent::Away, "No server answers.") }.new
    done = described_class.new(@desk, away).pull
    expect([done.away, done.number, done.drift.open]).to eq(["No server answers.", 1, []])
    table = (@tables[2] = table(2, [rope, "startup"]))
    asked = []
    table.define_singleton_method(:fetch) do |sum, from, &give|
      asked << from
      bytes = files.fetch(sum)[from..]
      give.call(bytes[0, 40])
      raise Fobrel::Core::Startup::Agent::Away, "gone" if asked.size == 1
      give.call(bytes[40..].to_s)
    end
    expect { agent(2).pull }.to raise_error(described_class::Away)
    expect(folder.plan["plan"]).to eq(1)
    expect(agent(2).pull.number).to eq(2)
    expect(asked.first(2)).to eq([0, 40])
  end

  it "keeps nothing that is not what the plan says, and writes nowhere else" do
    pull(1, [fog, "startup"])
    before = seen
    honest = table(2, [rope, "startup"])
    lies = {
      "../../evil.json" => /where none may be/,
      "startup/../../evil.json" => /where none may be/,
      "/etc/evil.json" => /where none may be/,
      ".fobrel/current" => /where none may be/,
      "startup/.hidden.json" => /where none may be/,
      "startup/a/b.json" => /where none may be/,
      "startup/nul\u0000.json" => /where none may be/,
      "parts/#{"0" * 64}.png" => /otherwise than its content/
    }
    lies.each do |path, why|
      plan = honest.plan_given.merge(
        "files" => honest.plan_given["files"].merge(
          path => {
            "sum" => "1" * 64,
            "bytes" => 3
          }
        )
      )
      @tables[2] = DeskHelp::Table.new(plan, honest.files, [])
      expect { agent(2).pull }.to raise_error(Fobrel::Core::Problem, why)
    end
    # Other content than announced, more of it than announced, and less.
    ["x" * 40, ->(bytes) { bytes + "more" }, ->(bytes) { bytes[0, 10] }].each do |lie|
      files = honest.files.transform_values { lie.is_a?(Proc) ? lie.call(_1) : lie }
      @tables[2] = DeskHelp::Table.new(honest.plan_given, files, [])
      expect { agent(2).pull }.to raise_error(Fobrel::Core::Problem)
    end
    endless = DeskHelp::Table.new(honest.plan_given, {}, [])
    endless.define_singleton_method(:fetch) { |_, _, &give| loop { give.call("y" * 100_000) } }
    @tables[2] = endless
    expect { agent(2).pull }.to raise_error(Fobrel::Core::Problem, /sends more/)
    [nil, [], {"format" => "fobrel.start/2"}, honest.plan_given.merge("startup" => [{"id" => 1}])].each do |plan|
      @tables[2] = DeskHelp::Table.new({"plan" => 2}, {}, [])
      @tables[2].define_singleton_method(:plan) { |_| {etag: "x", plan:, kept: []} }
      expect { agent(2).pull }.to raise_error(Fobrel::Core::Problem)
    end
    expect(seen).to eq(before)
    expect(Dir.children(File.dirname(@desk)).grep(/evil/)).to eq([])
    @tables[2] = honest
    expect(agent(2).pull.number).to eq(2)
  end

  describe "and links that somebody laid into the folder" do
    def own(name) = JSON.generate(ink.to_h.merge("name" => name, "id" => SecureRandom.uuid))

    let(:secret) { own("Secret") }
    let(:outside) { Dir.mktmpdir.tap { |path| File.write("#{path}/secret.json", secret, perm: 0o600) } }

    after { FileUtils.rm_rf(outside) }

    # What lies outside is as it was, and nothing of it is in the folder.
    def expect_untouched
      expect(Dir.children(outside)).to eq(["secret.json"])
      expect(File.read("#{outside}/secret.json")).to eq(secret)
      copies = Dir.glob("#{@desk}/**/*", File::FNM_DOTMATCH).select { |at|
        File.lstat(at).file? && File.stat(at).nlink == 1 && File.read(at).include?("Secret")
      }
      expect(copies).to eq([])
    end

    it "shows one in the place of a folder of the plan and reads nothing behind it" do
      File.symlink(outside, "#{@desk}/shelf")
      pull(1, [fog, "startup"], [ink, "shelf"])
      expect(names("shelf")).to eq(["01 Ink.json"])
      expect(File.readlink("#{@desk}/.fobrel/before/shelf")).to eq(outside)
      File.delete("#{@desk}/startup")
      File.symlink(outside, "#{@desk}/startup")
      expect(drift.items.map { |one| one.values_at("kind", "path") }).to include(%w[foreign startup])
      expect(drift.items.to_s).not_to include("secret")
      pull(2, [ink, "startup"])
      expect([names("startup"), drift.any?]).to eq([["01 Ink.json"], false])
      expect_untouched
    end

    it "leaves one within a folder where it is, unread" do
      pull(1, [fog, "startup"])
      File.symlink("#{outside}/secret.json", "#{@desk}/startup/mine.json")
      File.symlink(outside, "#{@desk}/startup/more")
      expect(
        drift.items.filter_map { |one|
          one["path"] if one["kind"] == "foreign"
        }
      ).to contain_exactly("startup/mine.json", "startup/more")
      expect(drift.items.to_s).not_to include("Secret")
      pull(2, [ink, "startup"])
      expect(File.readlink("#{@desk}/startup/mine.json")).to eq("#{outside}/secret.json")
      started = Fobrel::Core::Startup::Start.run(@desk)
      expect(started[:loaded].map { |one| one.values_at(:name, :ok) }).to eq([["Ink", true], ["mine", false]])
      expect_untouched
    end

    %w[states incoming current replaced before].each do |name|
      it "does not write through #{name} of its own" do
        pull(1, [fog, "startup"])
        FileUtils.rm_rf("#{@desk}/.fobrel/#{name}")
        File.symlink(outside, "#{@desk}/.fobrel/#{name}")
        begin
          pull(2, [ink, "startup"])
        rescue described_class::Stopped => e
          expect(e.message).to match(/is a link.*follows no links/)
        end
        expect_untouched
      end
    end

    it "does not go on with a part, nor write a note, that is a link or has a second name" do
      table(2, [ink, "startup"]).plan(nil)[:plan]["files"].each_value do |file|
        [:symlink, :link].each do |how|
          FileUtils.mkdir_p("#{@desk}/.fobrel/incoming")
          part = "#{@desk}/.fobrel/incoming/#{file["sum"]}.part"
          FileUtils.rm_f(part)
          File.public_send(how, "#{outside}/secret.json", part)
        end
      end
      File.symlink("#{outside}/secret.json", "#{@desk}/.fobrel/agent.json.next")
      pull(2, [ink, "startup"])
      expect(names("startup")).to eq(["01 Ink.json"])
      expect_untouched
    end

    it "is not a folder of a desk where the folder itself is one" do
      File.symlink(outside, "#{@desk}/desk")
      agent = described_class.new("#{@desk}/desk", table(1, [fog, "startup"]))
      expect { agent.pull }.to raise_error(described_class::Stopped, /is a link/)
      expect(Dir.children(outside)).to eq(["secret.json"])
    end

    it "keeps what is somebody's own as private as it was" do
      FileUtils.mkdir_p("#{@desk}/startup")
      File.write("#{@desk}/startup/own.json", own("Mine"), perm: 0o600)
      pull(1, [fog, "startup"])
      mode = ->(path) { format("%o", File.stat("#{@desk}/#{path}").mode & 0o777) }
      expect(
        [
          "startup/own.json",
          "startup/01 Round.json",
          ".fobrel/agent.json",
          ".fobrel/before"
        ].map(&mode)
      ).to eq(%w[600 644 600 700])
    end
  end

  it "lets one agent at a time work in a folder" do
    @tables = {1 => table(1, [fog, "startup"])}
    second = nil
    step = ->(_) {
      second ||= begin
        agent(1).pull
      rescue Fobrel::Core::Problem => e
        e.message
      end
    }
    agent(1, step:).pull
    expect(second).to match(/Another agent is at work/)
    expect(drift.open).to eq([])
  end

  it "keeps what somebody saves while it works" do
    pull(1, [rope, "startup"], [fog, "startup"])
    File.write("#{@desk}/startup/mine.json", JSON.generate(ink.to_h))
    @tables[2] = table(2, [fog, "startup"])
    late = ->(step) {
      next unless step == "link"
      File.write("#{@desk}/startup/mine.json", JSON.generate(ink.to_h.merge("name" => "Saved late")))
      File.write("#{@desk}/startup/new.json", "{}")
      File.write("#{@desk}/startup/02 Round.json", "late")
    }
    agent(2, step: late).pull
    expect(JSON.parse(File.read("#{@desk}/startup/mine.json"))["name"]).to eq("Saved late")
    expect(File.read("#{@desk}/startup/new.json")).to eq("{}")
    expect(names("aside").map { File.read("#{@desk}/aside/#{_1}") }).to eq(["late"])
  end

  it "goes on where its own link was taken away, and where a program put a folder in the place of one" do
    pull(1, [fog, "startup"])
    File.write("#{@desk}/startup/mine.json", JSON.generate(ink.to_h))
    File.delete("#{@desk}/.fobrel/current")
    agent(1).pull
    expect(names("startup")).to eq(["01 Round.json", "mine.json"])
    File.delete("#{@desk}/startup")
    FileUtils.mkdir("#{@desk}/startup")
    File.write("#{@desk}/startup/other.json", JSON.generate(ink.to_h))
    pull(2, [fog, "startup"])
    expect(names("startup")).to include("01 Round.json", "other.json")
    expect(Dir.glob("#{@desk}/.fobrel/states/*/startup/mine.json")).not_to eq([])
  end

  # What somebody is told who may read the desk's folder and not write there.
  def told_without_leave(number)
    FileUtils.chmod_R("a=rX", @desk)
    reader, writer = IO.pipe
    pid = fork do
      Process::Sys.setuid(65_534) if Process.uid.zero?
      agent(number).pull
    rescue Fobrel::Core::Problem => e
      writer.write(e.message)
    ensure
      writer.close
      exit!(0)
    end
    writer.close
    Process.wait(pid)
    reader.read
  ensure
    FileUtils.chmod_R("u+w", @desk)
  end

  it "says so where it may not write, and minds no clock" do
    pull(1, [fog, "startup"])
    @tables[2] = table(2, [ink, "startup"])
    was = seen
    expect(told_without_leave(2)).to match(/cannot be written to .*Nothing was changed/)
    expect([seen, folder.plan["plan"]]).to eq([was, 1])
    allow_any_instance_of(Fobrel::Core::Startup::Tree).to receive(:make).and_wrap_original do |make, path, **how|
      path.include?("making") ? raise(Errno::EROFS) : make.call(path, **how)
    end
    expect {
      pull(2, [ink, "startup"])
    }.to raise_error(Fobrel::Core::Problem, /cannot be written to .*Nothing was changed/)
    expect(folder.plan["plan"]).to eq(1)
    RSpec::Mocks.space.reset_all
    allow(Time).to receive(:now).and_return(Time.at(0))
    expect(agent(2).pull.number).to eq(2)
    File.write("#{@desk}-file", "")
    expect {
      described_class.new("#{@desk}-file", @tables[2]).pull
    }.to raise_error(Fobrel::Core::Problem, /is not a folder/)
    File.delete("#{@desk}-file")
  end

  it "fills no disk: where there is no room the old state stays, however often it is tried" do
    script = File.expand_path("../support/full_disk.rb", __dir__)
    room = "mount -t tmpfs -o size=400k none #{@desk} && exec #{RbConfig.ruby} -I #{File.expand_path(
      "../../lib",
      __dir__
    )} #{script} #{@desk}"
    out, err, status = Open3.capture3("unshare", "-Urm", "sh", "-c", room)
    out, err, status = Open3.capture3("unshare", "-m", "sh", "-c", room) unless status.success?
    forbidden = err.match?(/unshare failed|permission denied/i)
    skip "this machine lets no program have a file system of its own: #{err.lines.last}" if forbidden
    expect(status.success?).to be(true), err
    first, *rest = JSON.parse(out)
    expect(first.except("used")).to eq("problem" => nil, "plan" => 1, "drift" => 0, "states" => 2, "making" => 0)
    expect(rest.first(3).map { _1["problem"] }).to all(match(/There is no room left/))
    expect(rest.map { _1.except("problem") }.uniq).to eq([first.except("problem")])
  end

  it "takes the plan of a server that counts anew for another, though its number is the same, or less" do
    pull(7, [rope, "startup"])
    anew = table(7, [fog, "startup"], at: Time.at(90))
    done = described_class.new(@desk, anew).pull
    expect([done.swapped, names("startup")]).to eq([true, ["01 Round.json"]])
    expect(described_class.new(@desk, anew).pull.swapped).to be(false)
    described_class.new(@desk, table(2, [ink, "startup"], at: Time.at(99))).pull
    expect(names("startup")).to eq(["01 Ink.json"])
  end

  it "stays where it went back to, once and once more, until another plan is out" do
    pull(1, [rope, "startup"])
    pull(2, [fog, "startup"])
    pull(3, [ink, "startup"])
    [2, 1].each do |number|
      agent(3).back(number)
      expect(agent(3).pull.number).to eq(number)
    end
    expect(names("startup")).to eq(["01 Rope.json"])
    expect(pull(4, [fog, "startup"]).number).to eq(4)
  end
end
