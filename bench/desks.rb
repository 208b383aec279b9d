# frozen_string_literal: true

# What desks cost a server: nothing new asked by one agent, by two hundred at once; five hundred brushes of which three
# changed; forty desks that fetch a release of a hundred brushes; what a start is told to take beside what it takes. A
# whole server of its own, on loopback. The reference for "nothing new" is a question that reads nothing (/api/session)
# in the same run. See bin/bench.
require_relative "running_server"
require_relative "../cli/command_line"
require "stringio"

$stdout.sync = true

module Fobrel
  DESKS = 200
  FETCHING = 40
  BRUSHES = 500
  RELEASE = 100

  server = RunningServer.new("desks")
  folder, at = server.folder, server.url
  maren = Models::Person.find_by!(login: "maren")
  library = Models::Library.create!(name: "Bench").tap { |one| one.memberships.create!(person: maren, role: "lead") }
  base = Models::Preset.shown.first.current_version.value
  now = -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }
  p95 = ->(list) { list.sort[(list.size * 0.95).ceil - 1] }
  ms = ->(seconds) { format("%.0f ms", seconds * 1000) }
  memory = -> { server.memory.values.sum }

  make = lambda do |count, from|
    values = Array.new(count) { |n|
      Core::Preset::Preset[base.to_h.merge(
        "id" => SecureRandom.uuid, "name" => "Brush #{from + n}", "stroke" => {"spacing" => 0.05 + (from + n) * 0.0001}
      )]
    }
    values.map { |value| Actions::CreatePreset.call(library:, value:, person: maren, note: "bench") }
  end
  tune = lambda do |preset|
    value = preset.reload.current_version.value
    Actions::AddVersion.call(
      preset:,
      value: value.with("paint", value["paint"].merge("flow" => 0.5)),
      person: maren
    )
  end
  desk = lambda do |name, presets|
    made = Models::Desk.create!(library:, name:, folder: Models::Desk.free_folder(library, name), away: true)
    made.put_in_order(presets.map(&:id))
    [made, Models::AccessToken.issue(maren, name, desk: made).last]
  end
  send_to_desk = ->(one) { Actions::SendToDesk.call(desk: one.reload, person: maren) }
  agent = lambda do |path, token|
    source = DeskSource.new(url: at, token:)
    began = now.call
    done = Core::Startup::Agent.new(File.join(folder, "desks", path), source).pull
    [done, now.call - began, source.received]
  end

  presets = make.call(BRUSHES, 0)
  big, token = desk.call("Big", presets)
  send_to_desk.call(big)
  _, first, = agent.call("big", token)
  done, nothing, bytes = agent.call("big", token)
  puts "#{BRUSHES} brushes, the first time: #{ms[first]}"
  puts "nothing new: #{ms[nothing]}, #{bytes} bytes (wanted: under 0.5 s, 2,000 bytes), swapped: #{done.swapped}"
  presets.sample(3, random: Random.new(1)).each { |preset| tune.call(preset) }
  send_to_desk.call(big)
  done, some, bytes = agent.call("big", token)
  puts "three of them changed: #{done.fetched} files (three brushes and the words), #{ms[some]}, #{bytes} bytes in all"

  small = presets.first(12)
  desks = Array.new(DESKS) { |n| desk.call("Desk #{n}", small) }
  desks.each { |one, _| send_to_desk.call(one) }
  desks.each_slice(20) { |some| some.map { |one, key| Thread.new { agent.call(one.folder, key) } }.each(&:join) }
  Net::HTTP.start("127.0.0.1", server.port) { |http| 20.times { http.get("/api/session") } }
  rounds = Array.new(3) do
    gate = Thread::Queue.new
    threads = desks.map { |one, key|
      source = DeskSource.new(url: at, token: key, desk: one.id)
      etag = JSON.parse(File.read(File.join(folder, "desks", one.folder, ".fobrel", "agent.json")))["etag"]
      Thread.new do
        gate.pop
        began = now.call
        source.plan(etag) && raise("there should be nothing new")
        now.call - began
      end
    }
    threads.each { gate << true }
    threads.map(&:value)
  end
  plain = Array.new(3) do
    threads = Array.new(DESKS) {
      Thread.new {
        now.call.then { |began|
          Net::HTTP.get(URI("#{at}/api/session")) && (now.call - began)
        }
      }
    }
    threads.map(&:value)
  end
  puts "#{DESKS} desks ask at once, nothing is new: p95 #{ms[p95[rounds.flatten]]} (wanted: under 1 s); " \
    "#{DESKS} questions that read nothing: p95 #{ms[p95[plain.flatten]]}"

  release = make.call(RELEASE, BRUSHES)
  fetching = desks.first(FETCHING)
  fetching.each { |one, _| one.put_in_order(release.map(&:id)) && send_to_desk.call(one) }
  before = memory.call
  began = now.call
  results = fetching.map { |one, key| Thread.new { agent.call(one.folder, key) } }.map(&:value)
  took = now.call - began
  puts "#{FETCHING} desks fetch #{RELEASE} brushes each: #{format("%.1f s", took)} (wanted: 60 s), " \
    "#{results.sum { |done, _, _| done.fetched }} files; server #{before.round} → #{memory.call.round} MB"

  # The demo's own desks: the time a start is told beforehand, after three of them, beside what the fourth takes.
  ENV["FOBREL_VAR"] = folder
  Models::Desk.workplaces.where(away: false).where.not(sent_at: nil).order(:id).each do |one|
    3.times { Actions::RestartDesk.call(desk: one) }
    told = Finding::StartupPlan.new(one, lines: one.handed.lines.map { Core::Startup::Layers::Line.from(_1) }).load
    Actions::RestartDesk.call(desk: one)
    took = one.starts.last["ms"]
    puts "#{one.name}: a start told as #{told[:ms]} ms took #{took.round} ms, #{format("%.2f ×", took / told[:ms])} " \
      "(wanted: 0.5 to 2)"
  end
ensure
  server&.stop
end
