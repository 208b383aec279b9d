# frozen_string_literal: true

require "open3"
require "pg"
require "rbconfig"
require_relative "../server/postgres"
require "tmpdir"

# An import that is cut off in the middle, by killing the worker or the database: afterwards it
# either did not happen or is complete, and is resumed.
RSpec.describe "cut off in the middle" do
  root = File.expand_path("..", __dir__)

  around do |example|
    Dir.mktmpdir("fobrel-cut") do |folder|
      FileUtils.chmod(0o755, folder)
      @folder = folder
      @cluster = Fobrel::Postgres.new(folder)
      @url = @cluster.start("fobrel_cut")
      example.run
    ensure
      [@worker, @holder&.last&.pid].compact.each { |pid|
        begin
          Process.kill(:KILL, pid)
        rescue
          nil
        end
      }
      @cluster.stop
      if File.exist?(
        File.join(
          folder, "postgres.place"
        )
      )
        FileUtils.rm_rf(
          File.expand_path(
            File.read(File.join(folder, "postgres.place")).strip,
            folder
          )
        )
      end
    end
  end

  define_method(:work) do |more = {}|
    @worker = spawn(
      {"DATABASE_URL" => @url, "FOBREL_VAR" => @folder, "JOB_WORKERS" => "1", **more},
      RbConfig.ruby,
      "#{root}/server/worker.rb",
      out: File.join(@folder, "worker.log"),
      err: %i[child out]
    )
  end

  def ask(sql)
    connection = PG.connect(@url)
    connection.exec(sql).values.flatten
  ensure
    connection&.close
  end

  def state
    ask(
      "SELECT (SELECT count(*) FROM presets), (SELECT count(*) FROM set_items), (SELECT count(*) FROM " \
        "history_entries), (SELECT state FROM imports)"
    )
  end

  def wait_for
    1200.times { yield ? (return true) : sleep(0.1) }
    told = [
      "SELECT name, state FROM imports",
      "SELECT job_class, error_count, left(last_error_message, 200), run_at, expired_at, finished_at FROM que_jobs",
      "SELECT pid FROM que_lockers",
      "SELECT state, wait_event_type, left(query, 60) FROM pg_stat_activity WHERE datname = current_database()"
    ].map { ask(_1) }
    raise "waited 120 seconds in vain: #{told.join(" ")}"
  end

  define_method(:hold) do
    @holder = Open3.popen2(
      {"DATABASE_URL" => @url, "FOBREL_VAR" => @folder},
      RbConfig.ruby,
      "#{root}/spec/support/half_way.rb"
    )
    expect(@holder[1].gets).to eq("held\n")
    work
    # The worker has written the brushes and waits for the places in the set: it is half-way.
    wait_for {
      ask("SELECT count(*) FROM pg_stat_activity WHERE wait_event_type = 'Lock' AND query LIKE '%set_items%'") == ["1"]
    }
    expect(state).to eq(["0", "0", "0", "applying"])
  end

  def complete
    wait_for { state.last == "applied" }
    expect(state).to eq(["2", "2", "1", "applied"])
    expect(ask("SELECT state, message FROM tasks ORDER BY id DESC LIMIT 1")).to match(
      [
        "done",
        /Imported\. half\.zip: 2 new/
      ]
    )
    wait_for { ask("SELECT count(*) FROM que_jobs WHERE finished_at IS NULL AND job_class LIKE '%Import'") == ["0"] }
  end

  it "takes an import up again when the worker was killed, and does it once" do
    hold
    Process.kill(:KILL, @worker)
    Process.wait(@worker)
    wait_for { ask("SELECT count(*) FROM pg_stat_activity WHERE wait_event_type = 'Lock'") == ["0"] }
    expect(state).to eq(["0", "0", "0", "applying"])
    @holder[0].puts
    work
    complete
  end

  it "reads all others when one import ends its process every time, and puts that one aside" do
    expect(
      system(
        {"DATABASE_URL" => @url, "FOBREL_VAR" => @folder},
        RbConfig.ruby,
        "#{root}/spec/support/ten.rb"
      )
    ).to be(true)
    kept = Dir.children(Dir.tmpdir).grep(/\Afobrel-import/)
    deadly = {"RUBYOPT" => "#{ENV["RUBYOPT"]} -r#{root}/spec/support/deadly.rb"}
    work(deadly)
    # As bin/start begins another when one has died.
    deaths = 0
    again = Thread.new do
      loop do
        Process.wait(@worker)
        deaths += 1
        work(deadly)
      end
    end
    wait_for { ask("SELECT count(*) FROM imports WHERE state = 'planned'") == ["9"] }
    wait_for { ask("SELECT state FROM tasks ORDER BY id LIMIT 1") == ["failed"] }
    expect(
      [
        deaths,
        *ask("SELECT a.state, t.message FROM imports a JOIN tasks t ON t.id = a.task_id WHERE a.name = 'deadly'")
      ]
    ).to match(
      [
        1, "open", /It was ended. Nothing was changed/
      ]
    )
    expect(Dir.children(Dir.tmpdir).grep(/\Afobrel-import/) - kept).to eq([])
  ensure
    again&.kill
  end

  it "is whole when the database was killed, and the same worker goes on" do
    hold
    @cluster.send(:tool, "pg_ctl", "-D", @cluster.send(:data), "-m", "immediate", "-w", "stop")
    @url = @cluster.start("fobrel_cut")
    expect(state.first(3)).to eq(%w[0 0 0])
    @holder[0].puts
    complete
  end
end
