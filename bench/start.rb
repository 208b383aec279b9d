# frozen_string_literal: true

# How long a person waits from `bin/start` to the word that it is ready, the second time and later; beside it what
# Ruby takes to load the same libraries and nothing of ours. See bin/bench.
require_relative "../server/boot"
require_relative "rows"
require "open3"
require "socket"

module Fobrel
  folder = File.join(Fobrel.var, "bench-start")
  clock = -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }
  start = lambda do
    port = TCPServer.open("127.0.0.1", 0) { _1.addr[1] }
    env = {
      "FOBREL_VAR" => folder,
      "PORT" => port.to_s,
      "DATABASE_URL" => nil,
      "BUNDLE_GEMFILE" => nil,
      "RUBYOPT" => nil
    }
    began = clock.call
    Open3.popen2e(env, File.join(ROOT, "bin/start")) do |_, said, waiter|
      said.each_line { |line| line.include?("is ready") ? break : warn(line) }
      took = clock.call - began
      Process.kill("INT", waiter.pid)
      waiter.value
      took
    end
  end
  libraries = %w[
    bundler/setup
    active_record
    bcrypt
    que
    rack/attack
    rack/protection
    rack/session
    sinatra/base
    zeitwerk
    json_schemer
    liquid
    nokogiri
    numo/narray
    vips
    zip
    pg
    puma
  ]
  alone = lambda do
    began = clock.call
    system(RbConfig.ruby, *libraries.map { "-r#{_1}" }, "-e", "") && (clock.call - began)
  end
  start.call # the demo is drawn the first time
  Rows.row("start, second time", "s", 4.0) do
    times, bare = Array.new(5) { [start.call, alone.call] }.transpose.map(&:sort)
    Rows::Found.new(value: times[2], more: format("%.1f–%.1f s; its libraries alone %.1f s", *times.minmax, bare[2]))
  end
  Rows.end
end
