# frozen_string_literal: true

# A process that does long work and nothing else, on the database that DATABASE_URL names: as many
# of them, on as many machines, as the work needs. See bin/worker.
require_relative "boot"

module Fobrel
  Database.connect
  ActiveRecord::Base.connection.verify!
  Jobs::Queue.start(workers: Integer(ENV.fetch("JOB_WORKERS", 2)))
  stop = Thread::Queue.new
  %w[INT TERM].each { |signal| trap(signal) { Thread.new { stop << signal } } }
  $stdout.sync = true
  puts "Fobrel's worker is ready (Ctrl-C stops it)"
  stop.pop
  Jobs::Queue.stop
end
