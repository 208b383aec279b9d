# frozen_string_literal: true

# What hundreds of pages that listen for news cost those who work: the same requests of twenty people without
# listeners and beside two hundred, in turn, in one run; how long a piece of news takes to all of them; the memory of
# the web processes. And how long it takes to say who has what of 2,000 brushes in 60 places. A whole server of its own,
# on loopback. See bin/bench.
require_relative "running_server"

$stdout.sync = true

module Fobrel
  PEOPLE = 20
  LISTENERS = 200
  SECONDS = Float(ENV.fetch("FOBREL_SECONDS", 10))
  BRUSHES = 2000
  PLACES = 60

  server = RunningServer.new("live")
  port = server.port
  library = Models::Library.find_by!(name: "Storm over Skerrow")
  tokens = Array.new(PEOPLE) do |index|
    person = Models::Person.create!(login: "p#{index}", name: "Person #{index}", password: "twenty people at once")
    library.memberships.create!(person:, role: "artist")
    Models::AccessToken.issue(person, "bench").last
  end
  base = "/api/libraries/#{library.id}"
  now = -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }
  p95 = ->(list) { list.sort[(list.size * 0.95).ceil - 1] }
  presets = library.presets.shown.ids
  mix = [
    -> { ["Get", "#{base}/brushes?limit=50"] },
    -> { ["Get", "/api/presets/#{presets.sample}/state"] },
    -> { ["Get", "/api/inbox"] },
    -> { ["Get", "#{base}/facets?q="] },
    -> { ["Post", "#{base}/talk/preset/#{presets.sample}", {text: "A word"}] }
  ]

  work = lambda do
    until_then = now.call + SECONDS
    tokens.map { |token|
      Thread.new do
        Net::HTTP.start("127.0.0.1", port) do |http|
          times = []
          while now.call < until_then
            kind, path, body = mix.sample.call
            headers = {"Authorization" => "Bearer #{token}", "Content-Type" => "application/json"}
            request = Net::HTTP.const_get(kind).new(path, headers)
            request.body = JSON.generate(body) if body
            began = now.call
            answer = http.request(request)
            abort "#{path}: #{answer.code}" unless answer.is_a?(Net::HTTPSuccess)
            times << now.call - began
            sleep 0.1
          end
          times
        end
      end
    }.flat_map(&:value)
  end

  listen = lambda do
    Array.new(LISTENERS) do |index|
      socket = TCPSocket.new("127.0.0.1", port)
      socket.write(
        "GET #{base}/live HTTP/1.1\r\nHost: localhost\r\nAuthorization: Bearer #{tokens[index % PEOPLE]}\r\n\r\n"
      )
      socket
    end
  end

  memory = -> { server.memory.sum { |name, size| name.start_with?("web") ? size : 0 }.round }

  work.call # warm
  alone, beside = [], []
  sockets = []
  quiet = memory.call
  3.times do
    alone.concat(work.call)
    sockets = listen.call
    sleep 1
    beside.concat(work.call)
    sockets.each(&:close)
  end
  sockets = listen.call
  sleep 1
  sockets.each { |socket| nil while socket.read_nonblock(65_536, exception: false).is_a?(String) }
  began = now.call
  Models::Live.tell(what: "library", library: library.id, by: 0)
  left = sockets.dup
  while left.any? && now.call - began < 10
    ready, = IO.select(left, nil, nil, 1)
    ready&.each { |socket|
      left.delete(socket) if socket.read_nonblock(4096, exception: false).to_s.include?("data:")
    }
  end
  heard = now.call - began
  puts "live: #{PEOPLE} people at work, p95 alone #{(p95[alone] * 1000).round} ms (#{alone.size} requests), beside " \
    "#{LISTENERS} listeners #{(p95[beside] * 1000).round} ms (#{beside.size}): #{(p95[beside] / p95[alone]).round(2)} ×"
  puts "live: news at #{LISTENERS - left.size} of #{LISTENERS} listeners after #{(heard * 1000).round} ms; web " \
    "processes #{quiet} MB before, #{memory.call} MB with them"

  # Who has what: 2,000 brushes, 40 libraries that follow and 20 desks.
  maren = Models::Person.find_by!(login: "maren")
  many = Models::Library.create!(name: "Many")
  many.memberships.create!(person: maren, role: "lead")
  document = library.presets.first.current_version.document
  copies = Array.new(BRUSHES) do |index|
    value = Core::Preset::Preset.restore(document.merge("id" => SecureRandom.uuid, "name" => "Brush #{index}"))
    preset = many.presets.create!(document_id: value.id, name: value.name, origin: "made")
    Actions::AddVersions::Item.new(preset, value, "")
  end
  Actions::AddVersions.call(items: copies, person: maren)
  many.presets.update_all("baseline_version_id = current_version_id")
  bundle = many.bundles.create!(name: "All")
  rows = many.presets.pluck(:id, :document_id, :fingerprint)
  40.times do |index|
    place = Models::Library.create!(name: "Follower #{index}")
    Models::FollowRight.create!(publisher: many, library: place, state: "granted")
    follow = place.follows.create!(bundle:, person: maren)
    Models::FollowedBrush.insert_all(
      rows.map { |id, document_id, fingerprint|
        {follow_id: follow.id, preset_id: id, document_id:, base: {}, fingerprint:}
      }
    )
  end
  (PLACES - 40).times do |index|
    handed = rows.first(500).map { |id, _, fingerprint| {id:, fingerprint:} }
    many.desks.create!(name: "Desk #{index}", folder: "desk-#{index}", sent: handed)
  end
  token = Models::AccessToken.issue(maren, "bench").last
  ask = lambda do
    began = now.call
    Net::HTTP.start("127.0.0.1", port, read_timeout: 60) do |http|
      got = http.get("/api/libraries/#{many.id}/consistency", {"Authorization" => "Bearer #{token}"})
      [now.call - began, got.code, got.body.bytesize]
    end
  end
  first, code, size = ask.call
  again = Array.new(5) { ask.call.first }.min
  puts "live: who has what of #{BRUSHES} brushes in #{PLACES} places: #{(first * 1000).round} ms the first time, " \
    "#{(again * 1000).round} ms again (#{code}, #{size / 1024} KB before packing); wanted below 1000"
ensure
  server&.stop
end
