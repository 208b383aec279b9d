# frozen_string_literal: true

# Run as a process of its own by faults_spec. Each line it is told names a deed, a database, and where in it what goes
# wrong: at that question to the database, or at that writing into a file, the process is killed, the database is
# stopped at once, or the disk is full. It answers how the deed ended. Each deed has a process of its own, split off
# from this one, which has asked no database and painted nothing.
require_relative "../../server/boot"
require_relative "../../server/postgres"
require "json"
require "pg"

module Faulty
  # Whatever is asked or written counts as a step.
  ASKED = %i[exec exec_params exec_prepared async_exec prepare query send_query_params put_copy_data get_copy_data]
    .select { PG::Connection.method_defined?(_1) }
  WRITTEN = %i[write syswrite fsync].freeze

  class << self
    attr_accessor :step, :at, :how, :postmaster
  end

  # @param kind [Symbol] :asked or :written
  def self.tick(kind)
    return if @within
    self.step += 1
    return unless step == at
    @within = true
    fail_now(kind)
  end

  def self.fail_now(kind)
    case how
    when "kill" then Process.kill(:KILL, Process.pid) && sleep
    when "full"
      raise PG::DiskFull, "could not extend file: No space left on device" if kind == :asked
      raise Errno::ENOSPC
    when "database"
      # SIGQUIT: it stops at once, without tidying up (server shutdown in the manual of PostgreSQL).
      Process.kill(:QUIT, postmaster)
      sleep 0.05 while there?(postmaster)
    end
  end

  def self.there?(pid)
    Process.kill(0, pid)
  rescue Errno::ESRCH
    false
  end

  def self.watch
    [[PG::Connection, ASKED, :asked], [File, WRITTEN, :written]].each do |owner, names, kind|
      owner.prepend(
        Module.new {
          names.each do |name|
            define_method(name) { |*arguments, &block| Faulty.tick(kind).then { super(*arguments, &block) } }
          end
        }
      )
    end
  end

  M = Fobrel::Models
  DEEDS = {
    "import" => ->(of) { Fobrel::Jobs::ApplyImport.work_here(M::Import.find(of["import"]).task_id) },
    "library" => ->(of) { Fobrel::Jobs::ApplyImport.work_here(M::Import.find(of["backup"]).task_id) },
    "release" => lambda { |of|
      Fobrel::Actions::ReleaseBundle.call(
        bundle: M::Bundle.find(of["bundle"]), person: M::Person.find(of["person"]), number: "1.0.0"
      )
    },
    "follow" => lambda { |of|
      follow, release = M::Follow.find(of["follow"]), M::Release.find(of["newer"])
      Fobrel::Actions::TakeRelease.call(follow:, person: M::Person.find(of["person"]), release:)
    },
    "send" => lambda { |of|
      Fobrel::Actions::SendToDesk.call(desk: M::Desk.find(of["desk"]), person: M::Person.find(of["person"]))
    },
    "many" => lambda { |of|
      library = M::Library.find(of["library"])
      Fobrel::Actions::RenamePresets.call(
        library:, person: M::Person.find(of["person"]), ids: library.presets.ids.sort, rules: {"prefix" => "Storm "}
      )
    },
    "undo" => ->(of) { Fobrel::Actions::Undo.call(entry: M::HistoryEntry.find(of["entry"])) },
    "backup" => ->(of) { Fobrel::Backups::Write.file(of["file"]) },
    "restore" => ->(of) { Fobrel::Backups::Copy.open(of["whole"]) { Fobrel::Backups::Restore.call(_1) } }
  }.freeze

  # @return [Hash] how it ended: "done", "killed", or with which error; and how many steps it took
  def self.run(order)
    reader, writer = IO.pipe
    pid = fork do
      reader.close
      work(order, writer)
    end
    writer.close
    said = reader.read
    Process.wait(pid)
    said.empty? ? {"ended" => "killed"} : JSON.parse(said)
  end

  def self.work(order, writer)
    Fobrel::Core::Apart.inside!
    ENV["DATABASE_URL"] = order["url"]
    Fobrel::Database.connect
    self.step, self.at = 0, order["at"]
    self.how, self.postmaster = order.values_at("how", "postmaster")
    watch
    DEEDS.fetch(order["deed"]).call(order["of"])
    writer.write(JSON.generate(ended: "done", steps: step))
  rescue Exception => e # rubocop:disable Lint/RescueException -- whatever it is, it is told
    writer.write(JSON.generate(ended: "#{e.class}: #{e.message.lines.first}"))
  ensure
    writer.flush
    exit!(0)
  end
end

$stdout.sync = true
$stdin.each_line { |line| puts(JSON.generate(Faulty.run(JSON.parse(line)))) }
