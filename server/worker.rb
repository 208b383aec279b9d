# frozen_string_literal: true

# A process that does long work and nothing else, on the database that DATABASE_URL names: as many
# of them, on as many machines, as the work needs. bin/start runs one, bin/worker others.
require_relative "aside"
require "socket"

module Fobrel
  # Work under way is given so long to end, seconds; what is cut off is taken up by the next worker.
  LAST_MOMENTS = 5
  # It stands behind those who answer people on the same machine.
  NICE = 10
  Process.setpriority(Process::PRIO_PROCESS, 0, [Process.getpriority(Process::PRIO_PROCESS, 0), NICE].max)

  Database.connect(patience: Database::JOB_PATIENCE)
  ActiveRecord::Base.connection.verify!
  Jobs::Queue.start(workers: Integer(ENV.fetch("JOB_WORKERS", 1)))
  stop = Thread::Queue.new
  %w[INT TERM].each { |signal| trap(signal) { Thread.new { stop << signal } } }
  # Where another program began this one, it ends with it: their line breaks.
  if (line = ENV["FOBREL_LINE"])
    socket = UNIXSocket.for_fd(Integer(line)).tap { _1.close_on_exec = true }
    Thread.new { socket.read.then { stop << :over } }
  end
  $stdout.sync = true
  puts "Fobrel's worker is ready (Ctrl-C stops it)" unless line
  stop.pop
  Thread.new { sleep(LAST_MOMENTS).then { exit!(1) } }
  Jobs::Queue.stop
end
