# frozen_string_literal: true

# Uploads that should not be, and fifty people at work beside what takes long. A whole server of its own, on loopback;
# everything here ends by itself. See bin/attack.
require_relative "running_server"
require_relative "rows"

$stdout.sync = true

module Fobrel
  # Processes of a server that is attacked: what they hold of memory and of the disk.
  class Watched
    attr_reader :most, :spooled

    # @param mark [String] of their environment
    def initialize(mark)
      @mark = mark
      @most = Hash.new(0)
      @spooled = 0
      @thread = Thread.new { loop { look && sleep(0.1) } }
    end

    def stop = @thread.kill.join

    private

    def look
      spooled = 0
      Dir["/proc/[0-9]*"].each do |process|
        next unless File.read("#{process}/environ").include?(@mark)
        rss = File.read("#{process}/status")[/VmRSS:\s+(\d+)/, 1].to_i / 1024
        name = File.read("#{process}/cmdline").tr("\0", " ").strip[0, 60]
        @most[name] = [@most[name], rss].max
        spooled += bodies(process)
      rescue SystemCallError
        next # it has ended
      end
      @spooled = [@spooled, spooled].max
    end

    # Bytes of bodies that are kept in files without a name.
    def bodies(process)
      Dir["#{process}/fd/*"].sum do |fd|
        File.readlink(fd).match?(/puma.*deleted/) ? File.stat(fd).size : 0
      rescue SystemCallError
        0
      end
    end
  end

  # One run of one part.
  class Attack
    MB = 1024 * 1024
    SECONDS = Float(ENV.fetch("FOBREL_SECONDS", 20))
    BRUSHES = 5000
    PEOPLE = 50

    def initialize(server)
      @server = server
      @library = Models::Library.find_by!(name: "Storm over Skerrow")
      @tokens = %w[maren tove ilse].to_h { |login| [login, token(Models::Person.find_by!(login:))] }
    end

    def uploads
      watched = Watched.new(@server.folder)
      Models::Import.create!(library: @library, person: Models::Person.first, name: "a", source: "dropped")
      base = "/api/libraries/#{@library.id}"
      JSON.generate({brushes: Array.new(300_000) { |n| n }})
      senders = Array.new(20) { -> { send_fast("POST", "/api/session", 100 * 1024 * MB) } }
      till = now + SECONDS
      threads = senders.map { |one| Thread.new { one.call while now < till } }
      times = Array.new((SECONDS * 5).to_i) { ask("#{base}/brushes?limit=50", "maren").tap { sleep 0.15 } }
      threads.each(&:join)
      watched.stop
      Rows.row("bodies on the disk, by who may send none", "MB", 50.0) {
        Rows::Found.new(value: watched.spooled / MB.to_f)
      }
      largest, size = watched.most.max_by(&:last)
      Rows.row("the largest process meanwhile", "MB", 600.0) { Rows::Found.new(value: size.to_f, more: largest) }
      Rows.row("answers to others that were none, of #{times.size}", "", 0.0) {
        Rows::Found.new(value: times.count(nil).to_f, more: "p95 #{(p95(times.compact) * 1000).round} ms")
      }
    end

    def load
      fill
      people = Array.new(PEOPLE) { |index| token(person(index)) }
      parcel = package
      2.times { work(people, SECONDS) } # warm
      alone = work(people, SECONDS * 2)
      tasks = begin_long_work(parcel)
      beside = work(people, SECONDS * 3)
      puts "  under way at the end: #{tasks.call.join(", ")}"
      ratio = p95(beside[:read]) / p95(alone[:read])
      more = "#{(p95(beside[:read]) * 1000).round} ms beside #{(p95(alone[:read]) * 1000).round}"
      Rows.row("reading beside export, backup and import", "×", 1.5) { Rows::Found.new(value: ratio, more:) }
      Rows.row("refused for what others do (409)", "", 0.0) { Rows::Found.new(value: beside[:refused].to_f) }
      Rows.row("errors of ours", "", 0.0) { Rows::Found.new(value: beside[:errors].to_f) }
    end

    private

    def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

    def p95(list) = list.sort[(list.size * 0.95).ceil - 1] || 0.0

    def token(person) = Models::AccessToken.issue(person, "bench").last

    def person(index)
      made = Models::Person.create!(login: "p#{index}", name: "Person #{index}", password: "fifty people at work")
      @library.memberships.create!(person: made, role: "artist")
      made
    end

    # Brushes of one picture each, as a large library has them.
    def fill
      maren = Models::Person.find_by!(login: "maren")
      documents = @library.presets.shown.map { |one| one.current_version.document }
      (BRUSHES - documents.size).times.each_slice(1000) do |some|
        items = some.map do |index|
          document = documents[index % documents.size]
          given = document.merge("id" => SecureRandom.uuid, "name" => "#{document["name"]} no. #{index}")
          preset = @library.presets.create!(document_id: given["id"], name: given["name"], origin: "made")
          Actions::AddVersions::Item.new(preset, Core::Preset::Preset.restore(given), "")
        end
        Actions::AddVersions.call(items:, person: maren)
      end
      @library.presets.update_all("baseline_version_id = current_version_id")
      Models::Record.connection.execute("ANALYZE")
    end

    # @return [Proc] that says how far each is
    def begin_long_work(package)
      base = "/api/libraries/#{@library.id}"
      export = request("Post", "#{base}/exports", "maren", {kind: "package", name: "All", of: {library: true}})
      backup = request("Post", "/api/studio/backups", "maren", {})
      second = Models::Library.find_by!(name: "Second unit")
      import = JSON.parse(request("Post", "/api/libraries/#{second.id}/imports", "maren", {name: "kit"}).body)
      request("Put", "/api/imports/#{import["id"]}/files?name=kit.fobrel.zip", "maren", package)
      read = request("Post", "/api/imports/#{import["id"]}/read", "maren", {})
      codes = [export, backup, read].map(&:code)
      lambda do
        ended = Models::StudioBackup.last
        [
          "asked #{codes.join("/")}",
          *Models::Task.order(:id).last(2).map { |one| "#{one.kind} #{one.state}" },
          "backup #{ended.made_at ? "made" : "under way"}"
        ]
      end
    end

    # A package of a few hundred brushes, to be brought in.
    def package
      wish = {"kind" => "package", "name" => "Some", "of" => {"preset_ids" => @library.presets.shown.limit(300).ids}}
      made = Actions::ExportBrushes.call(library: @library, person: Models::Person.find_by!(login: "maren"), wish:)
      made.io.read
    end

    def work(tokens, seconds)
      till = now + seconds
      presets = @library.presets.shown.limit(500).ids
      base = "/api/libraries/#{@library.id}"
      reads = [
        "#{base}/brushes?limit=50",
        "#{base}/brushes?q=harbour",
        "#{base}/facets?q=",
        "/api/inbox",
        "#{base}/sets"
      ]
      found = {read: [], write: [], refused: 0, errors: 0}
      lock = Mutex.new
      tokens.map { |key|
        Thread.new do
          chance = Random.new(key.hash)
          Net::HTTP.start("127.0.0.1", @server.port, read_timeout: 60) do |http|
            while now < till
              writes = chance.rand(12).zero?
              path = writes ? "/api/presets/#{presets.sample(random: chance)}/favourite" : reads.sample(random: chance)
              asked = Net::HTTP.const_get(writes ? "Put" : "Get").new(path, head(key))
              asked.body = '{"on":true}' if writes
              began = now
              code = http.request(asked).code.to_i
              spent = now - began
              lock.synchronize do
                found[writes ? :write : :read] << spent
                found[:refused] += 1 if code == 409
                found[:errors] += 1 if code >= 500
              end
              sleep [1.0 - spent, 0].max * chance.rand(0.5..1.5)
            end
          end
        end
      }.each(&:join)
      found
    end

    def head(key) = {"Authorization" => "Bearer #{key}", "Content-Type" => "application/json"}

    def request(verb, path, login, body)
      asked = Net::HTTP.const_get(verb).new(path, head(@tokens.fetch(login)))
      asked["Content-Type"] = "application/octet-stream" if body.is_a?(String)
      asked.body = body.is_a?(String) ? body : JSON.generate(body)
      Net::HTTP.start("127.0.0.1", @server.port, read_timeout: 120) { |http| http.request(asked) }
    end

    # @return [Float, nil] seconds; nil where it was not answered as it should be
    def ask(path, login)
      began = now
      answer = Net::HTTP.start("127.0.0.1", @server.port, read_timeout: 20) { |http|
        http.get(path, head(@tokens[login]))
      }
      now - began if answer.code == "200"
    rescue SystemCallError, IOError, Timeout::Error
      nil
    end

    def socket
      TCPSocket.open("127.0.0.1", @server.port) { |one| yield one }
    rescue SystemCallError, IOError
      sleep 0.05
    end

    def start(verb, path, length, login)
      key = login && "Authorization: Bearer #{@tokens.fetch(login)}\r\n"
      "#{verb} #{path} HTTP/1.1\r\nHost: localhost\r\n#{key}Content-Length: #{length}\r\n\r\n"
    end

    # As much as is taken, up to 64 MB.
    def send_fast(verb, path, length, login = nil)
      piece = "x" * MB
      socket do |one|
        one.write(start(verb, path, length, login))
        64.times { one.write(piece) }
      end
    end

    def send_slowly(verb, path, length)
      socket do |one|
        one.write(start(verb, path, length, nil))
        60.times { one.write("x") && sleep(1) }
      end
    end

    def send_json(verb, path, login, body)
      socket do |one|
        one.write(start(verb, path, body.bytesize, login).sub("\r\n\r\n", "\r\nContent-Type: application/json\r\n\r\n"))
        one.write(body)
        one.readpartial(4096)
      end
    end
  end

  RunningServer.during("attack") { |server| Attack.new(server).public_send(ENV.fetch("ATTACK")) }
  Rows.end
end
