# frozen_string_literal: true

# "When one machine is not enough", tried: two web processes and a worker, each in a network of its own (ip netns), that
# share nothing but PostgreSQL. A lead signs in at the one and an artist at the other; what the artist proposes is there
# for the lead, and what the lead decides for the artist, without reloading; long work is done by the worker. Wants root
# and iproute2. Run: bundle exec ruby bench/apart.rb
require_relative "../server/boot"
require_relative "../server/postgres"
require_relative "../server/app"
require_relative "../demo/studio"
require "json"
require "open3"
require "tmpdir"

$stdout.sync = true
# The same port on each loopback: they are not the same network.
PORT = 4899
ROOT = File.expand_path("..", __dir__)
NAMES = %w[one two worker].map { |name| "fobrel-#{Process.pid}-#{name}" }
CHILDREN = []

# Bytes from one place to another, both ways, until either ends.
def relay(server, &)
  Thread.new do
    loop do
      near = server.accept
      far = yield
      [[near, far], [far, near]].each do |from, to|
        Thread.new do
          IO.copy_stream(from, to)
        rescue IOError, SystemCallError
          nil
        ensure
          [near, far].each { |one| one.close unless one.closed? }
        end
      end
    end
  end
end

# Within a network: PostgreSQL's port on its loopback leads to the socket, which leads out.
if ARGV.first == "relay"
  _, port, socket = ARGV
  relay(TCPServer.new("127.0.0.1", port.to_i)) { UNIXSocket.new(socket) }.join
  exit
end

# Within a network: a browser of its own, told what to do line by line.
if ARGV.first == "browse"
  require "ferrum"
  browser = Ferrum::Browser.new(
    window_size: [1280, 800],
    browser_path: "/usr/bin/chromium-headless-shell",
    process_timeout: 60,
    timeout: 30,
    browser_options: {"no-sandbox" => nil}
  )
  $stdin.each_line do |line|
    kind, *words = JSON.parse(line)
    found = case kind
    when "go" then browser.go_to("http://127.0.0.1:#{PORT}#{words[0]}") && true
    when "type"
      80.times { browser.at_css(words[0]) ? break : sleep(0.1) }
      browser.at_css(words[0]).focus.type(*words[1..].map { |one| (one == "enter") ? :Enter : one }) && true
    when "fetch"
      # As the page does: with the session's own token.
      browser.evaluate_async(<<~JS, 30)
        fetch('/api/session').then((a) => a.json()).then(({ csrf }) => fetch(#{words[1].to_json}, {
          method: #{words[0].to_json}, headers: { 'Content-Type': #{(words[3] || "application/json").to_json},
            'X-CSRF-Token': csrf },
          body: #{words[2] ? JSON.generate(words[2]).to_json : "undefined"} }))
          .then((a) => a.json()).then(arguments[0])
      JS
    when "see"
      began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
      until browser.body.include?(words[0])
        raise "“#{words[0]}” never came" if Process.clock_gettime(Process::CLOCK_MONOTONIC) - began > 30
        sleep 0.02
      end
      ((Process.clock_gettime(Process::CLOCK_MONOTONIC) - began) * 1000).round
    end
    puts JSON.generate([found])
    $stdout.flush
  rescue => e
    puts JSON.generate([nil, "#{e.class}: #{e.message}"[0, 300]])
    $stdout.flush
  end
  exit
end

def run(*words) = system(*words) || abort("#{words.join(" ")} failed; this wants root and iproute2")

def within(name, *words, **how)
  ["ip", "netns", "exec", name, *words].then { |all| spawn(*all, **how).tap { CHILDREN << _1 } }
end

folder = Dir.mktmpdir("fobrel-apart")
begin
  NAMES.each { |name| run("ip", "netns", "add", name) && run("ip", "-n", name, "link", "set", "lo", "up") }
  cluster = Fobrel::Postgres.new(File.join(Fobrel.var, "bench"))
  cluster.start("postgres")
  cluster.drop("fobrel_bench_apart")
  url = cluster.start("fobrel_bench_apart")
  port = URI(url).port
  socket = File.join(folder, "postgres.sock")
  relay(UNIXServer.new(socket)) { TCPSocket.new("127.0.0.1", port) }
  NAMES.each { |name| within(name, RbConfig.ruby, __FILE__, "relay", port.to_s, socket) }
  sleep 1
  Fobrel::Database.connect(url)
  Fobrel::Database.migrate
  Fobrel::Demo::Studio.build
  env = {"DATABASE_URL" => url, "PORT" => PORT.to_s, "SESSION_SECRET" => "a" * 64, "JOB_WORKERS" => "0"}
  logs = NAMES.first(2).map { |name| File.join(folder, "#{name}.log") }
  NAMES.first(2).zip(logs).each do |name, log|
    var = File.join(folder, name)
    Dir.mkdir(var)
    words = [
      "env",
      *env.merge("FOBREL_VAR" => var).map { |key, value|
        "#{key}=#{value}"
      },
      RbConfig.ruby,
      "#{ROOT}/server/launch.rb"
    ]
    within(name, *words, out: log, err: log)
  end
  worker = [
    "env",
    "DATABASE_URL=#{url}",
    "FOBREL_VAR=#{folder}",
    "JOB_WORKERS=1",
    RbConfig.ruby,
    "#{ROOT}/server/worker.rb"
  ]
  within(NAMES.last, *worker, out: File.join(folder, "worker.log"), err: File.join(folder, "worker.log"))
  logs.each { |log| 600.times { (File.exist?(log) && File.read(log).include?("is ready")) ? break : sleep(0.1) } }
  desks = NAMES.first(2).map { |name|
    Open3.popen2("ip", "netns", "exec", name, RbConfig.ruby, __FILE__, "browse").then { |input, output, thread|
      CHILDREN << thread.pid
      lambda do |*words|
        input.puts(JSON.generate(words))
        found, problem = JSON.parse(output.gets)
        problem ? abort("#{name}: #{words.first(2).join(" ")}: #{problem}") : found
      end
    }
  }
  lead, artist = desks
  [[lead, "maren"], [artist, "tove"]].each do |who, login|
    who.call("go", "/")
    who.call("type", "input[autocomplete=username]", login)
    who.call("type", "input[type=password]", Fobrel::Demo::Studio::PASSWORD, "enter")
    who.call("see", "Storm over Skerrow")
  end
  library = Fobrel::Models::Library.find_by!(name: "Storm over Skerrow")
  other = Fobrel::Models::Library.find_by!(name: "Second unit").presets.shown.order(:id).last
  lead.call("go", "/#{library.id}/proposals")
  lead.call("see", "Tove Lindgaard")
  sleep 2
  sentence = "From the other network"
  artist.call("fetch", "POST", "/api/libraries/#{library.id}/proposals", {preset_ids: [other.id], sentence:})
  puts "proposed at one address, told at the other after #{lead.call("see", other.name)} ms"
  item = Fobrel::Models::ProposalItem.order(:id).last
  artist.call("go", "/#{library.id}/inbox")
  sleep 2
  decision = {as: "new", name: "Across", reason: "Seen across"}
  lead.call("fetch", "POST", "/api/proposals/#{item.proposal_id}/items/#{item.id}", decision)
  puts "decided at the one, told at the other after #{artist.call("see", "Seen across")} ms"
  import = lead.call("fetch", "POST", "/api/libraries/#{library.id}/imports", {name: "apart"})
  brush = Fobrel::Models::Preset.first.current_version.document.merge("id" => SecureRandom.uuid)
  path = "/api/imports/#{import["id"]}/files?name=brush.json"
  lead.call("fetch", "PUT", path, brush, "application/octet-stream")
  lead.call("fetch", "POST", "/api/imports/#{import["id"]}/read", {})
  state = 100.times.lazy.map {
    sleep(0.1) && artist.call("fetch", "GET", "/api/imports/#{import["id"]}", nil)["state"]
  }
    .find { |one| one != "reading" && one != "gathering" }
  puts "long work asked for at the one was done by the worker, and is seen at the other: #{state}"
ensure
  CHILDREN.reverse_each do |pid|
    Process.kill(:INT, pid)
  rescue Errno::ESRCH
    nil
  end
  sleep 2
  CHILDREN.each do |pid|
    Process.kill(:KILL, pid)
  rescue Errno::ESRCH
    nil
  end
  NAMES.each { |name| system("ip", "netns", "del", name, err: File::NULL) }
  FileUtils.rm_rf(folder)
end
