# frozen_string_literal: true

require_relative "../server/app"
require_relative "../server/postgres"
require "net/http"

module Fobrel
  # A whole server of its own for a bench, with the demo in a new database, on loopback.
  class RunningServer
    # @return [Integer] its port
    attr_reader :port
    # @return [String] a folder for the time of the bench
    attr_reader :folder

    # @param name [String] of the bench
    # @yieldparam server [RunningServer] that answers; this process is connected to its database
    def self.during(name)
      server = new(name)
      yield server
    ensure
      server&.stop
    end

    def initialize(name)
      @folder = Dir.mktmpdir("fobrel-#{name}")
      @cluster = Postgres.new(File.join(ENV["FOBREL_BENCH"] || Fobrel.var, "bench"))
      @cluster.start("postgres")
      @cluster.drop("fobrel_bench_#{name}")
      url = @cluster.start("fobrel_bench_#{name}")
      @port = TCPServer.open("127.0.0.1", 0) { _1.addr[1] }
      env = {"DATABASE_URL" => url, "PORT" => port.to_s, "FOBREL_VAR" => folder, "SESSION_SECRET" => "b" * 64}
      launch = File.expand_path("../server/launch.rb", __dir__)
      @pid = spawn(env, RbConfig.ruby, launch, out: log, err: %i[child out])
      1200.times { (File.exist?(log) && File.read(log).include?("is ready")) ? break : sleep(0.1) }
      Database.connect(url)
      ActiveModel::SecurePassword.min_cost = true
    end

    # @return [String] the file with what it says
    def log = File.join(folder, "server.log")

    # @return [String] its address
    def url = "http://127.0.0.1:#{port}"

    # @return [Hash{String => Float}] MB that each web process, the worker and all that paint have for themselves
    def memory
      rows = `ps -o pid=,args= -e`.lines.map { |line| line.split(" ", 2) }
      # A web process is called after its parent.
      web = rows.select { |_, args| args.match?(/\Apuma: cluster worker \d+: #{@pid} /) }.map(&:first)
      work = rows.select { |_, args| args.include?("server/worker.rb") }.map(&:first)
      painting = rows.select { |_, args| args.include?("Apart::Nursery") }.map(&:first)
      named = web.each_with_index.map { |pid, index| ["web #{index + 1}", pid] } + work.map { |pid| ["worker", pid] }
      named.to_h { |name, pid| [name, own(pid)] }.merge("painting" => painting.sum { own(_1) })
    end

    # Ends it, and takes away its folder.
    def stop
      Process.kill("INT", @pid) && Process.wait(@pid)
      ActiveRecord::Base.connection_handler.clear_all_connections!
      @cluster.stop
      FileUtils.rm_rf(folder)
    end

    private

    # Its own pages and its share of those in common.
    def own(pid)
      File.read("/proc/#{pid}/smaps_rollup")[/^Pss:\s+(\d+)/, 1].to_i / 1024.0
    rescue SystemCallError
      0.0 # it has ended
    end
  end
end
