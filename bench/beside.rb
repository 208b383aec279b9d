# frozen_string_literal: true

# How long an honest person waits while somebody else does much, or means harm: the same requests on a
# quiet server and beside each attack, in one run; and the memory of every process. A whole server of its
# own, on loopback. See bin/bench.
require_relative "../server/app"
require_relative "../server/postgres"
require "net/http"

$stdout.sync = true

module Fobrel
  SECONDS = Float(ENV.fetch("FOBREL_SECONDS", 12))
  IMPORT = Integer(ENV.fetch("FOBREL_IMPORT", 3000))
  # Resident memory that no process may reach, bytes.
  MOST = 600 * 1024 * 1024

  folder = Dir.mktmpdir("fobrel-beside")
  cluster = Postgres.new(File.join(ENV["FOBREL_BENCH"] || Fobrel.var, "bench"))
  cluster.start("postgres")
  cluster.drop("fobrel_bench_beside")
  url = cluster.start("fobrel_bench_beside")
  silent = TCPServer.new("127.0.0.1", 0) # a gallery that takes every call and never answers
  held = []
  Thread.new { loop { held << silent.accept } }
  port = TCPServer.open("127.0.0.1", 0) { _1.addr[1] }
  log = File.join(folder, "server.log")
  mark = "FOBREL_VAR=#{folder}\0"
  server = spawn(
    {
      "DATABASE_URL" => url,
      "PORT" => port.to_s,
      "FOBREL_VAR" => folder,
      "SESSION_SECRET" => "b" * 64,
      "GALLERY_URL" => "http://127.0.0.1:#{silent.addr[1]}",
      "CLEAN_HOUR" => "24"
    },
    RbConfig.ruby,
    File.expand_path("../server/launch.rb", __dir__),
    out: log,
    err: %i[child out]
  )
  1200.times { (File.exist?(log) && File.read(log).include?("is ready")) ? break : sleep(0.1) }
  Database.connect(url)
  library = Models::Library.find_by!(name: "Storm over Skerrow")
  token = ->(login) { Models::AccessToken.issue(Models::Person.find_by!(login:), "bench").last }
  maren, tove, ilse = %w[maren tove ilse].map(&token)
  Models::GalleryToken.create!(person: Models::Person.find_by!(login: "ilse"), token: "x")
  ActiveModel::SecurePassword.min_cost = true
  ten = Array.new(10) do |index|
    person = Models::Person.create!(login: "ten#{index}", name: "Person #{index}", password: "ten people at once")
    library.memberships.create!(person:, role: "artist")
    Models::AccessToken.issue(person, "bench").last
  end

  # A person's connection.
  connect = lambda do |key|
    http = Net::HTTP.start("127.0.0.1", port, read_timeout: 120)
    lambda do |kind, path, body = nil|
      request = Net::HTTP.const_get(kind).new(
        path,
        {
          "Authorization" => "Bearer #{key}",
          "Content-Type" => body.is_a?(String) ? "application/octet-stream" : "application/json"
        }
      )
      request.body = body.is_a?(String) ? body : JSON.generate(body) if body
      http.request(request)
    end
  end
  now = -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }
  timed = ->(&work) { now.call.then { |began| work.call.then { |value| [value, now.call - began] } } }
  p95 = ->(list) { list.sort[(list.size * 0.95).ceil - 1] || 0 }

  base = "/api/libraries/#{library.id}"
  some = library.presets.shown.in_order.first
  honest = [
    ["Get", "#{base}/brushes?limit=50"],
    ["Get", "#{base}/brushes?q=harbour"],
    ["Get", "#{base}/facets?q="],
    ["Get", "/api/strips/#{some.fingerprint}/list.png"],
    ["Get", "/api/presets/#{some.id}"],
    ["Get", "#{base}/sets"]
  ]
  # Eight requests a second, as a person who works makes them.
  ask = lambda do |seconds, key = maren|
    client = connect.call(key)
    till = now.call + seconds
    found = []
    honest.cycle do |words|
      break if now.call > till
      answer, spent = timed.call { client.call(*words) }
      raise "#{words.join(" ")}: #{answer.code} #{answer.body[0, 200]}" unless answer.code == "200"
      found << spent
      sleep [0.125 - spent, 0].max
    end
    found
  end

  memory = Hash.new(0)
  watch = Thread.new do
    loop do
      Dir.glob("/proc/[0-9]*").each do |process|
        next unless File.read("#{process}/environ").include?(mark)
        rss = File.read("#{process}/status")[/VmRSS:\s+(\d+)/, 1].to_i * 1024
        name = File.read("#{process}/cmdline").tr("\0", " ")
        kind = {"Nursery" => "painters", "worker.rb" => "long work", "cluster worker" => "web"}.find { |word, _|
          name.include?(word)
        }&.last || "others"
        memory[kind] = [memory[kind], rss].max
      rescue SystemCallError
        next # it has just gone, or is another's
      end
      sleep 0.2
    end
  end

  brush = ->(**more) {
    Core::Preset::Preset.build(
      "Heavy",
      {
        "tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 40}},
        "stroke" => {"spacing" => 0.02, "marks_per_step" => 32},
        **more
      }
    ).to_h
  }
  heavy = brush.call(
    "response" => [
      {
        "drives" => "opacity",
        "by" => "random",
        "from" => 0,
        "to" => 1,
        "curve" => [[0, 0], [1, 1]]
      }
    ]
  )
  endless = "<svg xmlns='http://www.w3.org/2000/svg' width='99' height='99'><filter id='f'><feTurbulence " \
    "numOctaves='2147483647' baseFrequency='0.9'/></filter><rect width='99' height='99' filter='url(#f)'/></svg>"
  frame = Vips::Image.black(2000, 2000).copy(interpretation: :b_w)
  frames = Array.new(28) {
    frame
  }.inject { |one, two|
    one.join(
      two,
      :vertical
    )
  }.mutate { |m| m.set_type!(GObject::GINT_TYPE, "page-height", 2000) }.tiffsave_buffer(compression: :deflate)
  scan = Vips::Image.gaussnoise(6000, 6000, mean: 200, sigma: 20).cast(:uchar).copy(interpretation: :b_w).draw_rect(
    [0], 1000, 1000, 3000, 3000, fill: true
  ).jpegsave_buffer(Q: 80)
  deliver = lambda do |client, name, bytes|
    import = JSON.parse(client.call("Post", "#{base}/imports", {name:}).body)
    client.call("Put", "/api/imports/#{import["id"]}/files?name=#{name}", bytes.b)
    client.call("Post", "/api/imports/#{import["id"]}/read", {})
    import["id"]
  end
  slow_export_template = {
    preset_ids: [some.id],
    export_template: {name: "n", scope: "each", file: "f", body: "{{ (1..60000000) | join | size }}"}
  }
  attacks = {
    "strokes that take minutes, six at once" => [
      6,
      ilse,
      ->(client) {
        client.call("Post", "#{base}/strip", {document: heavy})
      }
],
    "export_templates that never end, six at once" => [
      6,
      ilse,
      ->(client) {
        client.call("Post", "#{base}/export-templates/preview", slow_export_template)
      }
],
    "a gallery that is silent, fourteen at once" => [
      14,
      ilse,
      ->(client) {
        client.call("Post", "/api/gallery/look", {q: rand.to_s}) && sleep(1)
      }
],
    "large scans in the tip maker, four at once" => [
      4,
      tove,
      ->(client) {
        client.call("Post", "#{base}/works?file=s.jpg", scan)
      }
],
    "everything exported, three at once" => [
      3,
      ilse,
      ->(client) {
        client.call("Post", "#{base}/exports", {kind: "backup", name: "all", of: {library: true}})
      }
],
    "small files that unpack to much, three at once" => [
      3,
      tove,
      ->(client) {
        [
          ["e.svg", endless],
          ["f.tif", frames]
        ].each { |words|
          deliver.call(client, *words)
        } && sleep(2)
      }
    ]
  }

  ask.call(3) # whatever is made at the first request is made
  puts "",
    "An honest person beside others, and alone just before (p95 of eight requests a second over #{SECONDS.round} s)",
    "-" * 100
  attacks.select { |name, _|
    name.match?(Regexp.new(ENV.fetch("FOBREL_ATTACKS", "")))
  }.each do |name, (count, key, deed)|
    sleep 3 # what was left of the last one ends
    # Just before, since a machine is not the same from one minute to the next.
    quiet = p95[ask.call(SECONDS)]
    # In a process of their own: what they send must not hold up who measures.
    others = fork do
      Process.setpriority(Process::PRIO_PROCESS, 0, 19) # they stand for other machines
      Array.new(count) do
        Thread.new do
          client = connect.call(key)
          loop { deed.call(client) }
        rescue IOError, SystemCallError, Timeout::Error
          retry
        end
      end.each(&:join)
    end
    sleep 0.5
    found = p95[ask.call(SECONDS)]
    Process.kill(:KILL, others)
    Process.wait(others)
    puts format("%-50s %6.1f ms, alone %6.1f ms: %4.2f × (wanted 1.5)", name, found * 1e3, quiet * 1e3, found / quiet)
    1200.times {
      Models::Record.connection.select_value(
        "SELECT count(*) FROM que_jobs WHERE finished_at IS NULL AND expired_at IS NULL AND run_at <= now()"
      ).zero? ? break : sleep(0.2)
    }
  end

  list = Array.new(IMPORT) { |index|
    brush.call("stroke" => {"spacing" => 0.2}).merge(
      "id" => SecureRandom.uuid,
      "name" => "Import #{index}",
      "tip" => {"form" => {"kind" => "round"}, "size" => {"base" => 5 + index / 100.0}}
    )
  }
  lead = connect.call(maren)
  id = deliver.call(lead, "list.json", JSON.generate(list))
  state = -> { Models::Import.where(id:).pick(:state) }
  sleep 0.2 until state.call == "planned"
  plan = JSON.parse(lead.call("Get", "/api/imports/#{id}").body)
  raise "nothing planned: #{plan.to_s[0, 300]}" unless plan["items"].size == IMPORT
  began = now.call
  raise "not begun" unless lead.call("Post", "/api/imports/#{id}/apply", {stamp: plan["stamp"]}).code == "202"
  waits = ten.each_with_index.map do |key, index|
    Thread.new do
      client = connect.call(key)
      (1..200).each_with_object([]) do |turn, all|
        deeds = [
          ["Post", "#{base}/labels", {name: "L#{index} #{turn}", colour: "moss", shape: "leaf"}],
          ["Post", "#{base}/taggings", {tag: "t#{index} #{turn}", preset_ids: [some.id]}],
          [
            "Put",
            "/api/presets/#{some.id}/draft",
            {document: some.current_version.document.merge("name" => "Draft #{turn}")}
          ]
        ]
        deeds.each { |words|
          timed.call {
            client.call(*words)
          }.then { |answer, spent| all << [spent, answer.code, words[1], answer.body[0, 100]] }
        }
        break all unless state.call == "applying"
        sleep 0.2
      end
    end
  end
  waits = waits.flat_map(&:value)
  raise "the import is #{state.call}: #{Models::Task.last.message}" unless %w[applying applied].include?(state.call)
  refused = waits.reject { _2.start_with?("2") }
  puts "",
    format(
      "An import of %d brushes (%.1f s) while ten people make labels, tags and drafts in the same library",
      IMPORT,
      now.call - began
    ),
    "-" * 90
  puts format(
    "%d deeds: median %.0f ms, p95 %.0f ms, longest %.0f ms (wanted 500); %d refused%s",
    waits.size,
    waits.map(&:first).sort[waits.size / 2].to_f * 1e3,
    p95[waits.map(&:first)] * 1e3,
    waits.map(&:first).max.to_f * 1e3,
    refused.size,
    refused.map {
      _1.drop(1).join(" ")
    }.uniq.first(3).then {
      _1.any? ? ": #{_1.join("; ")}" : ""
    }
  )
  sleep 0.2 while state.call == "applying"
  puts format("imported after %.1f s: %s", now.call - began, Models::Import.find(id).history_entry&.summary)
  watch.kill
  puts "",
    format(
      "Memory of a process at the most: %s (wanted below %d MB)",
      memory.map { |kind, bytes|
        "#{kind} #{bytes / 1024 / 1024} MB"
      }.join(", "),
      MOST / 1024 / 1024
    )
ensure
  watch&.kill
  Process.kill(:INT, server) && Process.wait(server) if server
  ActiveRecord::Base.connection_handler.clear_all_connections!
  cluster&.stop
  FileUtils.rm_rf(folder) if folder
end
