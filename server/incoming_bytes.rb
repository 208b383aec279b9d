# frozen_string_literal: true

module Fobrel
  # Bytes of request bodies that are arriving at this moment, over all web processes of this machine: each process has a
  # file with what it is waiting for. Together they never take more of the disk than MOST, nor the room that must stay
  # free (Watching::Health::LEAST).
  class IncomingBytes
    MOST = Integer(ENV.fetch("INCOMING_MOST", 2 * 1024 * 1024 * 1024))

    # @param folder [String] that all web processes share
    # @param most [Integer] bytes
    # @param free [#call] bytes that are free where bodies are kept, or nil
    def initialize(folder, most: MOST, free: -> { Watching::Health.free(Dir.tmpdir) })
      @folder = folder
      @most = most
      @free = free
      @held = 0
      FileUtils.mkdir_p(@folder)
    end

    # @param bytes [Integer] that a body may take
    # @raise [RequestGate::Refused] where that is too much with what is arriving already
    def reserve(bytes)
      locked do
        arriving = total
        free = @free.call
        full = free && free - arriving - bytes < Watching::Health::LEAST
        if full
          raise RequestGate::Refused.new(
            507,
            "The disk is full. Nothing was kept. Tell whoever looks after Fobrel."
          )
        end
        raise RequestGate::Refused.new(503, BUSY) if arriving.positive? && arriving + bytes > @most
        write(@held + bytes)
      end
    end

    BUSY = "So many files are arriving that this one was not begun. Nothing was kept. Try again in a minute."
    private_constant :BUSY

    def release(bytes) = locked { write(@held - bytes) }

    # @return [Integer] bytes that are arriving, in all processes
    def total
      Dir.children(@folder).grep(/\A\d+\z/).sum do |pid|
        alive?(pid.to_i) ? File.read(File.join(@folder, pid)).to_i : forget(pid)
      rescue Errno::ENOENT
        0
      end
    end

    private

    def locked
      File.open(File.join(@folder, "lock"), File::RDWR | File::CREAT, 0o600) do |file|
        file.flock(File::LOCK_EX)
        yield
      end
    end

    def write(bytes)
      @held = bytes
      own = File.join(@folder, Process.pid.to_s)
      bytes.positive? ? File.write(own, bytes.to_s) : FileUtils.rm_f(own)
    end

    def alive?(pid)
      Process.kill(0, pid)
      true
    rescue Errno::ESRCH
      false
    rescue Errno::EPERM
      true
    end

    # A process that ended took its bodies with it.
    def forget(pid)
      FileUtils.rm_f(File.join(@folder, pid))
      0
    end
  end
end
