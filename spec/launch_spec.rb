# frozen_string_literal: true

require "fileutils"
require "net/http"
require "pg"
require "rbconfig"
require "socket"
require "timeout"
require "tmpdir"
require "fobrel/core"
require_relative "../cli/studio"
require_relative "../server/postgres"

# bin/start's own part, with a folder, a cluster and a port of its own.
RSpec.describe "starting and stopping" do
  root = File.expand_path("..", __dir__)

  around do |example|
    Dir.mktmpdir("fobrel-launch") do |folder|
      FileUtils.chmod(0o755, folder)
      @folder = folder
      @port = TCPServer.open("127.0.0.1", 0) { _1.addr[1] }
      example.run
    ensure
      stop if @pid
      place = File.join(folder, "postgres.place")
      FileUtils.rm_rf(File.expand_path(File.read(place).strip, folder)) if File.exist?(place)
    end
  end

  define_method(:start) do |*words, wait: true|
    @log = File.join(@folder, "log")
    @pid = spawn(
      {"PORT" => @port.to_s, "FOBREL_VAR" => @folder, "DATABASE_URL" => nil, "SESSION_SECRET" => nil},
      RbConfig.ruby,
      "#{root}/server/launch.rb",
      *words,
      out: @log,
      err: %i[child out]
    )
    return unless wait
    1800.times { File.read(@log).include?("Fobrel is ready") ? break : sleep(0.1) }
    expect(File.read(@log)).to include("http://127.0.0.1:#{@port}")
  end

  def stop
    Process.kill(:INT, @pid)
    Process.wait(@pid)
    @pid = nil
    $?.exitstatus
  end

  def ask(path) = Net::HTTP.get_response(URI("http://127.0.0.1:#{@port}#{path}"))

  # A token for programs, as a person makes one in the page.
  def token
    Net::HTTP.start("127.0.0.1", @port) do |http|
      cookie = nil
      send = lambda do |verb, path, data = nil, csrf = nil|
        request = Net::HTTP.const_get(verb).new(
          path,
          {"Content-Type" => "application/json", "Cookie" => cookie, "X-CSRF-Token" => csrf}.compact
        )
        answer = http.request(request, data && JSON.generate(data))
        cookie = answer["Set-Cookie"]&.split(";")&.first || cookie
        JSON.parse(answer.body)
      end
      send.call(
        "Post",
        "/api/session",
        {login: "maren", password: "storm over skerrow"},
        send.call("Get", "/api/session")["csrf"]
      )
      send.call("Post", "/api/tokens", {name: "spec"}, send.call("Get", "/api/session")["csrf"]).fetch("token")
    end
  end

  def cluster_runs?
    File.exist?("#{@folder}/postgres.port") && Socket.tcp(
      "127.0.0.1",
      Integer(File.read("#{@folder}/postgres.port")),
      connect_timeout: 1
    ).close.nil?
  end

  it "draws the demo, keeps the data, begins anew when told, and stops all it started" do
    start
    expect(File.read(@log)).to include("Drawing the demo studio")
    expect(ask("/api/session").body).to include('"person":null')
    expect(ask("/").body).to include("<div id=\"app\">")
    # Long work is done at once, by processes that were split off from the one that drew the demo.
    picture = File.join(@folder, "tip.png").tap {
      File.binwrite(_1, Fobrel::Core::Tip::Cover[[[1, 0.5], [0, 1]]].to_png)
    }
    studio = Fobrel::Studio.new(url: "http://127.0.0.1:#{@port}", token:)
    expect(
      Timeout.timeout(90) {
        studio.deliver(studio.library("Second unit"), [picture])
      }["items"].map { _1["state"] }
    ).to eq(["new"])
    secret = File.read("#{@folder}/session.secret")
    expect(File.stat("#{@folder}/session.secret").mode & 0o077).to eq(0)
    expect(cluster_runs?).to be true
    # Its database dies: it is started again, and said so; pages wait meanwhile.
    place = File.expand_path(File.read("#{@folder}/postgres.place").strip, @folder)
    lock = "#{place}/postmaster.pid"
    Process.kill(:KILL, Integer(File.foreach(lock).first))
    Timeout.timeout(40) { sleep 0.1 until File.read(@log).include?("the database had ended and was started again") }
    answer = Timeout.timeout(40) do
      sleep 0.2 until (one = ask("/api/session")).code == "200"
      one
    end
    expect(answer.body).to include('"person":null')
    expect(stop).to eq(0)
    expect { cluster_runs? }.to raise_error(SystemCallError)

    start
    expect(File.read(@log)).not_to include("Drawing")
    expect(File.read("#{@folder}/session.secret")).to eq(secret)
    stop

    # Drawn anew, which need not be waited for a second time.
    start("--fresh", wait: false)
    600.times { File.read(@log).include?("Drawing the demo studio") ? break : sleep(0.1) }
    gone = /--fresh removes the database “fobrel” in #{@folder}.* and the folders .*import/
    expect(File.read(@log)).to match(/#{gone}.*Drawing the demo studio/m)
  end

  it "leaves a database of another version alone, and says what to do" do
    postgres = Fobrel::Postgres.new(@folder)
    PG.connect(postgres.start("fobrel")) do |connection|
      connection.exec("CREATE TABLE schema_migrations (version varchar PRIMARY KEY)")
      connection.exec("INSERT INTO schema_migrations VALUES ('20200101000000')")
    end
    postgres.stop
    start(wait: false)
    ended = Timeout.timeout(40) { Process.wait2(@pid).last }
    @pid = nil
    expect([ended.exitstatus, File.read(@log)]).to match([1, /another version of Fobrel.*Nothing was changed.*--fresh/])
    PG.connect(postgres.start("fobrel")) do |connection|
      expect(connection.exec("SELECT to_regclass('people')").getvalue(0, 0)).to be_nil
    end
  ensure
    postgres.stop
  end

  it "says in one sentence that a port is taken, or is none" do
    taken = TCPServer.open("127.0.0.1", @port)
    start(wait: false)
    Process.wait(@pid)
    expect(
      [
        $?.exitstatus,
        File.read(@log)
      ]
    ).to match([1, /\Afobrel: port #{@port} is taken by another program\. .*\n\z/])
    taken.close
    @port = "eighty"
    start(wait: false)
    Process.wait(@pid)
    @pid = nil
    expect(
      [
        $?.exitstatus,
        File.read(@log)
      ]
    ).to eq([1, "fobrel: PORT must be a number from 1 to 65535, not \"eighty\".\n"])
  end
end
