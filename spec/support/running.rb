# frozen_string_literal: true

require "socket"

# The server as a process of its own on the tests' database, to be stopped and started again.
class Running
  LAUNCH = File.expand_path("../../server/launch.rb", __dir__)

  # @yieldparam running [Running]
  def self.server
    running = new
    running.start
    yield running
  ensure
    Capybara.app_host = nil if defined?(Capybara)
    running&.stop
  end

  # Two web processes without workers, and one worker, that share nothing but the database (and, as desks need it, this
  # machine's folders). The worker's line to here breaks when this process ends, and the worker ends with it.
  class Apart
    WORKER = File.expand_path("../../server/worker.rb", __dir__)

    def initialize
      @webs = Array.new(2) { Running.new({"JOB_WORKERS" => "0", "GALLERY_URL" => "http://127.0.0.1:9"}) }
      @webs.each(&:begin)
      @line, far = UNIXSocket.pair
      env = {"JOB_WORKERS" => "1", "FOBREL_LINE" => far.fileno.to_s}
      @worker = spawn(env, RbConfig.ruby, WORKER, far => far, :out => File::NULL)
      far.close
      @webs.each(&:wait)
    rescue
      stop # one that does not start takes the others with it
      raise
    end

    def addresses = @webs.map(&:address)

    def stop
      Capybara.app_host = nil
      @line&.close
      Process.wait(@worker) if @worker
      @webs.each(&:stop)
    end
  end

  def initialize(env = {})
    @env = env
    @port = TCPServer.open("127.0.0.1", 0) { _1.addr[1] }
    @log = File.join(ENV.fetch("FOBREL_VAR"), "running-#{@port}.log")
  end

  attr_reader :pid

  # @return [String] what the server has said
  def log = File.read(@log)

  def address = "http://127.0.0.1:#{@port}"

  def start
    self.begin
    wait
  end

  def begin
    @pid = spawn(
      {
        "PORT" => @port.to_s,
        "SESSION_SECRET" => "r" * 64,
        "WEB_WORKERS" => "1",
        "PAINTERS_NICE" => nil, # as it runs with people
        "GALLERY_PAUSE" => "0",
        "GALLERY_WAIT" => "0.05",
        "GALLERY_FAILS" => "45",
        **@env
      },
      RbConfig.ruby,
      LAUNCH,
      out: @log,
      err: %i[child out]
    )
  end

  def wait
    # The gallery's packages are drawn first, which takes its time on a machine at work.
    1200.times { File.read(@log).include?("Fobrel is ready") ? return : sleep(0.1) }
    raise "the server did not start: #{File.read(@log)}"
  end

  def stop
    return unless @pid
    Process.kill(:INT, @pid)
    Process.wait(@pid)
    @pid = nil
  end

  def restart
    stop
    File.write(@log, "")
    start
  end
end
