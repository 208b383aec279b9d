# frozen_string_literal: true

require_relative "boot"

module Fobrel
  # Makes what is long to make in a process of its own, with a connection to the database of its own, so
  # that the process that was asked goes on answering others. One at a time for each person.
  module Aside
    SECONDS = 900
    MEMORY = 450 * 1024 * 1024
    # A file may grow to this.
    WRITES = 4 * 1024 * 1024 * 1024
    # A call waits behind so many at the most.
    WAITING = 6
    # As many processes at once, one of which is left to other people.
    SIZE = 3

    LOCK = Mutex.new
    private_constant :LOCK

    class << self
      # As Actions::ExportBrushes.call.
      def export(library:, person:, wish:, goes_to:)
        # What is not written down yet is seen by nobody else.
        if Models::Record.connection.transaction_open?
          return Actions::ExportBrushes.call(
            library:,
            person:,
            wish:,
            goes_to:
          )
        end
        io = Tempfile.new("fobrel-export", binmode: true).tap(&:unlink)
        Models::Record.connection_pool.release_connection
        said = crew.call(
          Core::Apart.turn,
          [
            name,
            :export_here,
            [library.id, person.id, wish, goes_to, "/proc/#{Process.pid}/fd/#{io.fileno}"],
            {}
          ],
          seconds: SECONDS,
          memory: MEMORY,
          fresh: false
        )
        Actions::ExportBrushes::Outcome.new(io, *said)
      end

      # Does a piece of long work.
      #
      # @param job [Class] a Jobs::Job
      # @param id [Integer] its task
      # @raise [Core::Apart::Ended] when it ended its process
      def work(job, id)
        return job.work_here(id) if Models::Record.connection.transaction_open?
        Models::Record.connection_pool.release_connection
        crew.call(
          Core::Apart::Turn.new(rank: :later),
          [name, :work_here, [job.name, id], {}],
          seconds: Jobs::Job::SECONDS,
          memory: MEMORY,
          fresh: true
        )
      end

      # @api private
      def work_here(job, id)
        Database.connect(patience: Database::JOB_PATIENCE)
        Object.const_get(job).work_here(id) && nil
      end

      # @api private
      def export_here(library, person, wish, goes_to, path)
        @connected ||= Database.connect
        io = File.open(path, "r+b")
        outcome = Actions::ExportBrushes.call(
          library: Models::Library.find(library),
          person: Models::Person.find(person),
          wish:,
          goes_to:,
          io:
        )
        [outcome.file, outcome.type]
      end

      private

      def crew
        LOCK.synchronize {
          (@crew if @crew&.pid == Process.pid) || (@crew = Core::Apart::Crew.new(
            size: SIZE,
            waiting: WAITING,
            program: File.join(ROOT, "server/aside.rb"),
            writes: WRITES,
            name: "export"
          ))
        }
      end
    end
  end
end
