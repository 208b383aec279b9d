# frozen_string_literal: true

# Finding, ordering and near-duplicates in a generated library of 10,000 brushes, on a database of
# its own. See bin/bench. FOBREL_MANY says how many; what was made is kept for the next run of as many, with what was
# painted then, unless FOBREL_FRESH=1. FOBREL_PART=search, duplicates or scroll leaves the rest out.
require_relative "../server/app"
require_relative "../server/postgres"
require "rack/mock"
require_relative "many"
require_relative "rows"

$stdout.sync = true

module Fobrel
  COUNT = Integer(ENV.fetch("FOBREL_MANY", 10_000))
  COPIES = COUNT / 50
  cluster = Postgres.new(File.join(Fobrel.var, "bench")) # of its own: nothing else stops it
  cluster.start("postgres")
  database = "fobrel_bench_#{COUNT}"
  cluster.drop(database) if ENV["FOBREL_FRESH"] == "1"
  url = cluster.start(database)
  Database.connect(url)
  Database.migrate
  ActiveModel::SecurePassword.min_cost = true

  clock = -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }
  timed = ->(&work) { clock.call.then { |began| work.call.then { |value| [value, (clock.call - began) * 1e3] } } }
  p95 = ->(list) { list.sort[(list.size * 0.95).ceil - 1] }

  person = Models::Person.find_by(login: "bench") || Models::Person.create!(
    login: "bench",
    name: "Bench",
    password: "a bench of many brushes"
  )
  library = Models::Library.find_or_create_by!(name: "Many")
  library.memberships.find_or_create_by!(person:, role: "lead")
  _, ms = timed.call { Many.fill(library, person, count: COUNT, copies: COPIES) if library.presets.none? }
  truth = Many.truth(library)
  Models::Record.connection.execute("VACUUM (ANALYZE, PARALLEL 0)") # as the database does by itself in time
  puts "", "#{COUNT} generated brushes", "------------------------"
  puts format("made in %.1f s", ms / 1000)

  part = ->(name) { [nil, name].include?(ENV["FOBREL_PART"]) }
  brushes = App.build(secret: "b" * 64)
  token = Models::AccessToken.issue(person, "bench").last
  get = ->(path) {
    answer = brushes.call(
      Rack::MockRequest.env_for(
        "http://localhost#{path}",
        "HTTP_HOST" => "localhost",
        "HTTP_AUTHORIZATION" => "Bearer #{token}"
      )
    )
    answer.tap { |status, _, body| raise body.to_a.join unless status == 200 }
  }
  base = "/api/libraries/#{library.id}"
  lines = [
    "",
    "fog",
    "harbour",
    "harbur fog",
    "lanturn",
    "tag: sea",
    "tag: sea, night; size: under 20",
    "category: wash",
    "trait: answers to tilt",
    "author: oake; licence: none",
    "used in: nothing",
    "set: Set 3",
    "not tag: sea; size: 20 to 40",
    "is: untagged",
    "changed: today",
    "åse",
    "帆",
    "capek tip 10",
    "is: without notes; trait: scatter",
    "fog category: wash, ink size: over 30; not tag: night"
  ]
  if part.call("search")
    ask = ->(line, order) {
      timed.call {
        get["#{base}/brushes?q=#{Rack::Utils.escape(line)}&order=#{order}&limit=50"]
      }.last
    }
    lines.each { ask[_1, "name"] }
    found = lines.product(%w[name size changed use]).map { |line, order| [ask[line, order], line, order] }
    listed = lambda do |name, wanted, all|
      Rows.row(name, "ms", wanted) {
        times = all.map(&:first).sort
        worst = all.max_by(&:first)
        more = format("median %.0f, slowest %.0f (“%s”)", times[times.size / 2], worst[0], worst[1..].join("” by “"))
        Rows::Found.new(value: p95[times], more:)
      }
    end
    few = COUNT <= 10_000
    listed.call("search, p95", few ? 30.0 : 60.0, found)
    if ENV["FOBREL_DETAIL"]
      found.sort_by {
        -_1[0]
      }.first(30).each { |ms, line, order| puts format("  %6.0f ms “%s” by %s", ms, line, order) }
    end
    facets = lines.map { |line| [timed.call { get["#{base}/facets?q=#{Rack::Utils.escape(line)}"] }.last, line] }
    listed.call("facets, p95", few ? 60.0 : 150.0, facets)
    pages = {
      "the facets of all, again" => ["facets?q=", 60.0],
      "the first page of 100" => ["brushes?limit=100", 300.0],
      "the last page" => ["brushes?limit=50&offset=#{COUNT - 50}", 60.0],
      "all ids" => ["brushes/ids", 200.0]
    }
    pages.each do |name, (path, wanted)|
      Rows.row(name, "ms", wanted) { Rows.time(3) { get["#{base}/#{path}"] }.tap { _1.value = _1.brushes } }
    end
    ids = library.presets.in_order.ids
    many = {
      "tagging 20,000" => [
        -> {
          Actions::TagPresets.call(library:, person:, name: "bench", ids: ids.first(20_000))
        },
        2
],
      "renaming 5,000" => [
        -> { Actions::RenamePresets.call(library:, person:, ids: ids.first(5000), rules: {"suffix" => " x"}) }, 2
      ],
      "reordering a set of 1,000" => [
        lambda do
          big = library.brush_sets.find_or_create_by!(name: "Big").tap { _1.put_in_order(ids.first(1000)) }
          Actions::FillSet.call(set: big, person:, ids: ids.first(1000).reverse)
        end,
        2
      ]
    }
    many.each do |what, (deed, wanted)|
      entry = nil
      Rows.row(what, "s", wanted.to_f) do
        entry, ms = timed.call(&deed)
        Rows::Found.new(value: ms / 1e3, more: "more than two seconds is long work, told while it is done")
      end
      if entry
        Rows.row("undo of #{what}", "s", 1.0) {
          Rows::Found.new(value: timed.call { Actions::Undo.call(entry:) }.last / 1e3, more: "long work, too")
        }
      end
    end
  end

  if part.call("duplicates")
    puts "",
      "Near-duplicates, held against #{COPIES} seeded near-copies",
      "-----------------------------------------------"
    _, ms = timed.call { Finding::Duplicates.new(library).prepare(seconds: 1e9) }
    puts format(
      "strips painted, and likely pairs looked at closely, for the first time: %.0f s (%.1f ms a brush)",
      ms / 1000,
      ms / COUNT
    )
    prints = library.presets.pluck(:id, :fingerprint).to_h
    pairs, ms = timed.call { Finding::Duplicates.new(library).candidates }
    known = truth.map { |pair| prints.values_at(*pair).sort }
    puts format(
      "candidates: %d pairs in %.1f s (wanted: under 10 s); %d of %d near-copies among them",
      pairs.size,
      ms / 1000,
      (known & pairs).size,
      known.size
    )
    Models::StripPair.delete_all
    _, looking = timed.call { Finding::Duplicates.new(library).prepare(seconds: 1e9) }
    groups, ms = timed.call { Finding::Duplicates.new(library).groups }
    known = truth
    alike = groups.select { _1[:kind] == "alike" }
    hit = known.count { |pair| alike.any? { |group| (pair - group[:ids]).empty? } }
    copied = known.flatten.to_a
    false_alarms = alike.count { |group| (group[:ids] & copied).size < 2 }
    puts format(
      "told alike by SSIM: %d groups, looked at closely once in %.1f s, afterwards told in %.1f s; recall %.1f %%, " \
        "false alarms %d",
      alike.size,
      looking / 1000,
      ms / 1000,
      100.0 * hit / known.size,
      false_alarms
    )
  end

  if part.call("scroll")
    puts "",
      "The brush list in a browser, scrolled from top to bottom",
      "--------------------------------------------------"
    require "ferrum"
    # Painted beforehand, as they are after an import.
    library.presets.includes(:current_version).find_each { |preset|
      Models::KeptStrip.png_for(preset.fingerprint, "small") {
        preset.current_version.value
      }
    }
    port = TCPServer.open("127.0.0.1", 0) { _1.addr[1] }
    server = Process.spawn(
      {"DATABASE_URL" => url, "PORT" => port.to_s},
      RbConfig.ruby,
      File.join(ROOT, "server/launch.rb"),
      out: File::NULL
    )
    sleep 0.2 until begin
      TCPSocket.new("127.0.0.1", port).close || true
    rescue
      false
    end
    browser = Ferrum::Browser.new(
      browser_path: "/usr/bin/chromium-headless-shell",
      window_size: [1280, 800],
      timeout: 60,
      process_timeout: 60,
      browser_options: {
        "no-sandbox" => nil,
        "disable-background-networking" => nil,
        "disable-component-update" => nil,
        "disable-sync" => nil
      }
    )
    browser.go_to("http://127.0.0.1:#{port}/")
    sleep 1
    browser.at_css("input[name=login]").focus.type("bench")
    browser.at_css("input[name=password]").focus.type("a bench of many brushes", :enter)
    sleep 3
    # Every row in sight is looked at in each frame: how long is one without its picture?
    browser.execute(<<~JS)
      window.worst = 0; const since = new Map(); const list = document.querySelector('.list');
      const look = () => {
        const box = list.getBoundingClientRect(), now = performance.now(), seen = new Set();
        for (const row of list.querySelectorAll('.row')) {
          const at = row.getBoundingClientRect(); if (at.bottom < box.top || at.top > box.bottom) continue;
          const image = row.querySelector('img'), key = row.dataset.index; seen.add(key);
          if (image && image.complete && image.naturalWidth) since.delete(key);
          else {
            if (!since.has(key)) since.set(key, now)
            window.worst = Math.max(window.worst, now - since.get(key))
          }
        }
        for (const key of since.keys()) if (!seen.has(key)) since.delete(key);
        if (!window.done) requestAnimationFrame(look);
      };
      requestAnimationFrame(look);
      window.steps = 0;
      const step = () => {
        list.scrollTop += 500; window.steps++;
        const more = list.scrollTop + list.clientHeight < list.scrollHeight - 2;
        if (more && window.steps < 2500) setTimeout(step, 60); else setTimeout(() => { window.done = true }, 1500);
      };
      step();
    JS
    sleep 1 until browser.evaluate("window.done === true")
    browser.page.command("Performance.enable")
    heap = browser.page.command("Performance.getMetrics")["metrics"].to_h { [_1["name"], _1["value"]] }
    # Private pages, and its share of those that it has in common with others.
    resident = `pgrep -f -- --type=renderer`.split.filter_map { |pid|
      if File.readable?("/proc/#{pid}/smaps_rollup")
        File.read("/proc/#{pid}/smaps_rollup")[/^Pss:\s+(\d+)/,
          1].to_i / 1024
      end
    }.max
    puts format(
      "longest a row in sight was without its strip: %.0f ms (wanted: 500); JavaScript heap %.0f MB, the page's " \
        "process %d MB (wanted: 300)",
      browser.evaluate("window.worst"),
      heap["JSHeapUsedSize"] / 1e6,
      resident
    )
    browser.quit
    Process.kill("INT", server)
    Process.wait(server)
  end
ensure
  ActiveRecord::Base.connection_handler.clear_all_connections!
  cluster&.stop
end
Fobrel::Rows.end if Fobrel::Rows.any?
