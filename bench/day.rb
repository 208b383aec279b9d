# frozen_string_literal: true

# A scripted day of a studio, with the requests that its pages make: looking, finding, tuning on the Bench, saving,
# tagging, taking back, handing over, taking in, making tips. How long the answers take, and what the processes keep of
# it. FOBREL_PEOPLE at work (3) for FOBREL_MINUTES (60); FOBREL_MANY brushes are made first (0: the demo alone). A whole
# server of its own, on loopback. See bin/bench and bench/rows.rb.
require_relative "running_server"
require_relative "rows"
require_relative "many"

$stdout.sync = true

module Fobrel
  PEOPLE = Integer(ENV.fetch("FOBREL_PEOPLE", 3))
  MINUTES = Float(ENV.fetch("FOBREL_MINUTES", 60))
  MANY = Integer(ENV.fetch("FOBREL_MANY", 0))
  # Seconds that somebody looks at what came, on average.
  LOOK = Float(ENV.fetch("FOBREL_LOOK", 1.5))

  # Seconds within which all have come.
  COME = 10
  # One person at work.
  class Somebody
    # @return [Array<Array(Symbol, String, Float)>] :read or :write, what, seconds
    attr_reader :times
    # @return [Array<String>] answers that should not be
    attr_reader :odd

    def initialize(port, token, library, ids, seed)
      @http = Net::HTTP.start("127.0.0.1", port, read_timeout: 120)
      @token = token
      @base = "/api/libraries/#{library.id}"
      @ids = ids
      @chance = Random.new(seed)
      @times = []
      @odd = []
    end

    # What is done, and how often of a hundred.
    DEEDS = {
      look: 30,
      find: 20,
      tune: 22,
      save: 6,
      favourite: 5,
      tag: 4,
      undo: 3,
      talk: 3,
      strip: 3,
      export: 1,
      proof: 1,
      import_brushes: 1,
      inbox: 1
    }.freeze

    # They do not all come through the door in the same moment.
    def work(till)
      sleep(@chance.rand * COME)
      while Process.clock_gettime(Process::CLOCK_MONOTONIC) < till
        send(DEEDS.flat_map { |deed, times| [deed] * times }.sample(random: @chance))
        sleep(@chance.rand * 2 * LOOK)
      end
    end

    private

    def look
      ask(:get, "#{@base}/brushes?limit=100&offset=#{@chance.rand(@ids.size)}&order=#{%w[name changed size].sample}")
      ask(:get, "/api/presets/#{@ids.sample(random: @chance)}")
    end

    def find
      line = ["fog", "tag: sea", "size: under 20", "harbur", "trait: scatter", ""].sample(random: @chance)
      ask(:get, "#{@base}/brushes?limit=100&q=#{Rack::Utils.escape(line)}")
      ask(:get, "#{@base}/facets?q=#{Rack::Utils.escape(line)}")
    end

    # A slider that is drawn: a strip for each place it is seen at, then the draft.
    def tune
      found = ask(:get, "/api/presets/#{id = @ids.sample(random: @chance)}") or return
      document = (found["draft"] && found.dig("draft", "document")) || found["document"]
      4.times do |step|
        document = document.merge("paint" => {**document["paint"].to_h, "flow" => 0.3 + step * 0.1})
        ask(:post, "#{@base}/strip?shape=bench", {document:})
      end
      ask(:put, "/api/presets/#{id}/draft", {document:})
    end

    def save
      found = ask(:get, "/api/presets/#{id = @ids.sample(random: @chance)}") or return
      document = found["document"].merge(
        "paint" => {
          **found["document"]["paint"].to_h,
          "flow" => @chance.rand.round(3)
        }
      )
      kept = ask(:put, "/api/presets/#{id}/draft", {document:}) or return
      said = {kept: kept["kept"], base: found.dig("preset", "version"), note: "day"}
      ask(:post, "/api/presets/#{id}/versions", said, fine: [201, 409, 422])
    end

    def favourite = ask(:put, "/api/presets/#{@ids.sample(random: @chance)}/favourite", {on: @chance.rand(2).zero?})

    def tag
      @entry = ask(:post, "#{@base}/taggings", {tag: "day #{@chance.rand(9)}", preset_ids: some(20)})&.dig(
        "entry",
        "id"
      )
    end

    def undo = @entry && ask(:post, "/api/history/#{@entry}/undo", {}, fine: [200, 403, 422]) && (@entry = nil)

    def talk = ask(:post, "#{@base}/talk/preset/#{@ids.sample(random: @chance)}", {text: "A word"})

    def strip
      found = ask(:get, "/api/presets/#{@ids.sample(random: @chance)}") or return
      ask(:get, "/api/strips/#{found.dig("preset", "fingerprint")}/list.png")
    end

    def inbox = ask(:get, "/api/inbox")

    def export = ask(:post, "#{@base}/exports", {kind: "package", name: "Day", of: {preset_ids: some(12)}, options: {}})

    def proof = ask(:post, "#{@base}/exports", {kind: "proof", name: "Day", of: {preset_ids: some(12)}, options: {}})

    def import_brushes
      import = ask(:post, "#{@base}/imports", {name: "Day"}) or return
      noise = Vips::Image.gaussnoise(400, 400, seed: @chance.rand(1 << 30)).cast(:uchar).copy(interpretation: :b_w)
      ask(
        :put,
        "/api/imports/#{import["id"]}/files?name=n.png",
        noise.pngsave_buffer,
        type: "application/octet-stream"
      )
      ask(:post, "/api/imports/#{import["id"]}/read", {})
      ask(:delete, "/api/imports/#{import["id"]}")
    end

    def some(count) = @ids.sample(count, random: @chance)

    def ask(verb, path, body = nil, fine: [200, 201, 202], type: "application/json")
      request = Net::HTTP.const_get(verb.to_s.capitalize).new(
        path, {"Authorization" => "Bearer #{@token}", "Content-Type" => type}
      )
      request.body = body.is_a?(String) ? body : JSON.generate(body) if body
      began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
      answer = @http.request(request)
      kind = (verb == :get) ? :read : :write
      kind = :paint if path.match?(%r{/(strip|strips|exports)\b})
      @times << [kind, path.gsub(/\d+/, "N")[/[^?]+/], Process.clock_gettime(Process::CLOCK_MONOTONIC) - began]
      code = answer.code.to_i
      @odd << "#{verb} #{path[0, 80]}: #{code} #{answer.body.to_s[0, 120]}" unless fine.include?(code)
      JSON.parse(answer.body) if code < 300 && answer.content_type == "application/json"
    end
  end

  RunningServer.during("day") do |server|
    library = Models::Library.find_by!(name: "Storm over Skerrow")
    if MANY.positive?
      lead = Models::Person.find_by!(login: "maren")
      library = Models::Library.create!(name: "Many").tap { _1.memberships.create!(person: lead, role: "lead") }
      Many.fill(library, lead, count: MANY)
      Models::Record.connection.execute("VACUUM (ANALYZE, PARALLEL 0)")
    end
    ids = library.presets.shown.ids
    people = Array.new(PEOPLE) do |index|
      person = Models::Person.create!(login: "d#{index}", name: "Person #{index}", password: "a day of a studio")
      library.memberships.create!(person:, role: "artist")
      Somebody.new(server.port, Models::AccessToken.issue(person, "bench").last, library, ids, index)
    end
    now = -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }
    began = now.call
    till = began + MINUTES * 60
    first = server.memory
    most = first.dup
    half = nil
    working = people.map { |one| Thread.new { one.work(till) } }
    every = [MINUTES * 60 / 20, 5].max
    told = began
    while now.call < till
      sleep 2
      memory = server.memory
      most.merge!(memory) { |_, a, b| [a, b].max }
      half ||= memory if now.call - began > MINUTES * 30
      next if now.call - told < every
      told = now.call
      puts format(
        "%5.1f min  %s",
        (told - began) / 60,
        memory.map { |name, size|
          format("%s %.0f MB", name, size)
        }.join(", ")
      )
    end
    working.each(&:join)
    last = server.memory
    p95 = ->(list) { list.empty? ? 0.0 : list.sort[(list.size * 0.95).ceil - 1] * 1e3 }
    times = people.flat_map(&:times)
    by = times.group_by(&:first).transform_values { |list| list.map(&:last) }
    count = "#{PEOPLE} people, #{times.size} requests, #{(times.size / MINUTES / 60).round(1)} a second"
    {read: 150.0, write: 400.0}.each do |kind, wanted|
      list = by.fetch(kind, [])
      Rows.row("#{kind}, p95", "ms", wanted) {
        Rows::Found.new(value: p95[list], more: format("median %.0f, %s", list.sort[list.size / 2].to_f * 1e3, count))
      }
    end
    puts format("what is painted, p95: %.0f ms", p95[by.fetch(:paint, [])])
    odd = people.flat_map(&:odd)
    Rows.row("answers that should not be", "", 0.0) {
      Rows::Found.new(value: odd.size.to_f, more: odd.first(3).join("; "))
    }
    web = ->(memory) { memory.select { |name, _| name.start_with?("web") }.values.max.to_f }
    Rows.row("a web process, at most", "MB", 350.0) {
      Rows::Found.new(value: web[most], more: format("%.0f at first, %.0f in the end", web[first], web[last]))
    }
    if half
      Rows.row("a web process, second half", "×", 1.15) {
        Rows::Found.new(value: web[last] / web[half], more: "in the end beside half time")
      }
    end
    if ENV["FOBREL_DETAIL"]
      times.group_by {
        _1[1]
      }.transform_values { |list| list.map(&:last) }.sort_by { |_, list| -list.sum }.first(20).each do |path, list|
        puts format("  %6d × %-50s p95 %6.0f ms, %5.1f s in all", list.size, path, p95[list], list.sum)
      end
    end
  end
  Rows.end
end
