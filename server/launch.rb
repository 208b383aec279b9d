# frozen_string_literal: true

# Starts everything for a person at this machine: the database, the demo, the web server.
# Called by bin/start, which has installed what is needed.
require_relative "port"
Fobrel::PORT = Fobrel.port_from(ENV)

require_relative "postgres"
require_relative "boot"
require "etc"
require "socket"

module Fobrel
  # One run of the application in the foreground.
  class Launch
    # @param fresh [Boolean] everything that was kept is removed first
    # @param bare [Boolean] without demo data: the first person begins the studio
    def initialize(fresh:, bare: false)
      @fresh = fresh
      @bare = bare
      @port = PORT
      @gallery_folder = File.join(Fobrel.var, "gallery")
      @postgres = Postgres.new(Fobrel.var) unless ENV["DATABASE_URL"]
    end

    # @return [Integer] the exit code
    def run
      check_port
      connect
      check_tables
      Database.migrate
      require_relative "app"
      furnish
      open_gallery
      keep_database
      keep_worker
      serve
      0
    rescue Postgres::Failed, Stop, ActiveRecord::ConnectionNotEstablished => e
      warn "fobrel: #{e.message}"
      1
    ensure
      @database&.kill&.join
      end_worker
      close_gallery
      ActiveRecord::Base.connection_handler.clear_all_connections!
      @postgres&.stop
    end

    # Raised with a sentence to end the run.
    class Stop < StandardError; end

    private

    def check_port
      TCPServer.open("127.0.0.1", @port).close
    rescue Errno::EADDRINUSE
      raise Stop,
        "port #{@port} is taken by another program. Stop that one, or choose another port: PORT=#{@port + 1} bin/start"
    rescue Errno::EACCES
      raise Stop, "port #{@port} may not be used by this user. Choose one above 1023: PORT=4810 bin/start"
    end

    # Processes that are begun from here find the database by the same word.
    def connect
      if @postgres
        clear if @fresh
        Database.connect(ENV["DATABASE_URL"] = @postgres.start("fobrel"))
      else
        raise Stop, "--fresh would empty the database of DATABASE_URL. Empty it yourself if you mean it." if @fresh
        Database.connect
      end
      ActiveRecord::Base.connection.verify!
    end

    # A database that another version of Fobrel made is left alone.
    def check_tables
      context = ActiveRecord::MigrationContext.new(File.join(ROOT, "db/migrate"))
      return if (context.get_all_versions - context.migrations.map(&:version)).empty?
      raise Stop,
        "this database was made by another version of Fobrel. Nothing was changed. Use that version, or start over " \
          "with an empty database: bin/start --fresh removes this one."
    end

    # Everything that was kept, after saying what that is.
    def clear
      @postgres.start("postgres")
      folders = %w[desks import gallery].map { File.join(Fobrel.var, _1) }.select { File.exist?(_1) }
      puts "--fresh removes the database “fobrel” in " \
        "#{@postgres.place}#{" and the folders #{folders.join(", ")}" if folders.any?}."
      @postgres.drop("fobrel")
      folders.each { FileUtils.rm_rf(_1) }
    end

    def secret
      return ENV["SESSION_SECRET"] if ENV["SESSION_SECRET"].to_s.size >= 64
      file = File.join(Fobrel.var, "session.secret")
      File.write(file, SecureRandom.hex(64), perm: 0o600) unless File.exist?(file)
      File.read(file)
    end

    # Draws the demo's pictures in a process of its own: libvips keeps threads for a while, and a
    # web server's process that is split off meanwhile would wait for them for ever.
    def furnish
      require_relative "../demo/studio"
      require_relative "../demo/gallery"
      @first_key = Models::Person.new_first_key if @bare && Models::Person.none?
      ActiveRecord::Base.connection_handler.clear_all_connections!
      child = fork do
        Database.first { Demo::Studio.build if Models::Person.none? } unless @bare
        Demo::Gallery.fill(@gallery_folder) unless ENV["GALLERY_URL"]
        exit!(0)
      rescue Interrupt
        exit!(1)
      end
      Process.wait(child)
      raise Stop, "The demo could not be drawn. Start again with --fresh." unless $?.success?
    end

    # Long work is done in a process of its own: what computes here would hold up those who ask. When it
    # dies, another takes its place.
    def keep_worker
      return if ENV["JOB_WORKERS"] == "0"
      line = begin_worker
      @worker = Thread.new do
        loop do
          line.wait_readable
          sleep 1
          line.close
          line = begin_worker
        rescue SystemCallError => e
          warn "The process for long work: #{e.message}"
          sleep 5
        end
      end
      @line = -> { line }
    end

    # @return [UNIXSocket] that ends with the worker, and the worker with it
    def begin_worker
      near, far = UNIXSocket.pair
      env = {"FOBREL_LINE" => far.fileno.to_s}
      @worker_pid = beside(env, RbConfig.ruby, File.join(ROOT, "server/worker.rb"), far => far)
      far.close
      near
    end

    def end_worker
      return unless @worker
      @worker.kill.join
      line = @line.call
      line.close_write
      # What it does not end by then is taken up at the next start; one that goes on would meet another's database.
      Process.kill("KILL", @worker_pid) unless line.wait_readable(LAST)
      line.close
    rescue SystemCallError
      nil # it was gone already
    end

    LAST = 8
    private_constant :LAST

    # A database of our own that dies is started again, as every other process is; pages wait meanwhile.
    def keep_database
      return unless @postgres
      @database = Thread.new do
        loop do
          sleep 1
          warn "fobrel: the database had ended and was started again" if @postgres.keep
        rescue Postgres::Failed => e
          warn "fobrel: #{e.message}"
          sleep 2
        end
      end
    end

    # The stand-in for a place outside the studio, unless GALLERY_URL names another.
    def open_gallery
      return if ENV["GALLERY_URL"]
      port = [@port + 1, 65_535].min
      port = TCPServer.open("127.0.0.1", 0) { _1.addr[1] } unless free?(port)
      ENV["GALLERY_URL"] = "http://127.0.0.1:#{port}"
      env = {
        "GALLERY_PORT" => port.to_s,
        "GALLERY_FOLDER" => @gallery_folder,
        "GALLERY_TOKEN" => Demo::Gallery::TOKEN,
        "GALLERY_PARENT" => Process.pid.to_s
      }
      @gallery = beside(env, RbConfig.ruby, File.join(ROOT, "gallery/gallery.rb"))
    end

    # Starts a program that is no child of ours: the web server waits for all of those at its end.
    def beside(*command)
      reader, writer = IO.pipe
      Process.wait(
        fork {
          writer.puts(Process.spawn(*command))
          writer.flush
          exit!(0)
        }
      )
      reader.gets.to_i
    ensure
      [reader, writer].each(&:close)
    end

    def free?(port)
      TCPServer.open("127.0.0.1", port).close || true
    rescue SystemCallError
      false
    end

    def close_gallery
      return unless @gallery
      Process.kill("TERM", @gallery)
    rescue Errno::ESRCH
      nil # it is gone already
    end

    # Two processes for each processor of the machine: within one, whoever computes holds up all others for a tenth of a
    # second at a time (Ruby's threads take turns). They share nothing but the database.
    def cluster(config)
      workers = Integer(ENV.fetch("WEB_WORKERS", (2 * Etc.nprocessors).clamp(2, 8)))
      return if workers < 2
      config.workers workers
      config.worker_shutdown_timeout 5
      config.preload_app!
      config.before_worker_boot do
        Core::Apart.warm
        Watching::Log.again
      end
      config.before_fork { ActiveRecord::Base.connection_handler.clear_all_connections! }
    end

    def serve
      require "puma"
      require "puma/configuration"
      require "puma/launcher"
      Watching::Metrics.share(File.join(Fobrel.var, "metrics"))
      app = App.build(secret:)
      PumaLimits.gate = RequestGate.new(secret:)
      PumaLimits.incoming = IncomingBytes.new(File.join(Fobrel.var, "incoming"))
      config = Puma::Configuration.new do |c|
        c.bind "tcp://127.0.0.1:#{@port}"
        c.threads 1, App::Room::THREADS
        cluster(c)
        c.app app
        c.log_requests false
        c.quiet
        c.lowlevel_error_handler { |error, env, status| PlainErrors.call(error, env, status) }
        c.force_shutdown_after 3
        c.raise_exception_on_sigterm false
      end
      launcher = Puma::Launcher.new(config, log_writer: PlainErrors::LogWriter.new(StringIO.new, $stderr))
      launcher.events.after_booted do
        puts "The first person begins here: http://127.0.0.1:#{@port}/begin##{@first_key}" if @first_key
        puts "Fobrel is ready: http://127.0.0.1:#{@port}  (Ctrl-C stops it)"
      end
      $stdout.sync = true
      launcher.run
    end
  end
end

exit Fobrel::Launch.new(fresh: ARGV.delete("--fresh"), bare: ARGV.delete("--bare")).run if $PROGRAM_NAME == __FILE__
