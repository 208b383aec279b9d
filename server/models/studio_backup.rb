# frozen_string_literal: true

module Fobrel
  module Models
    # A backup of the whole studio into the folder of backups, and whether it could be restored. Both are done by
    # programs of their own, which give back the memory they took and can end without taking anything along.
    class StudioBackup < Record
      belongs_to :person, optional: true

      # So many are told of.
      LISTED = 30
      # Seconds for one, and for its test.
      SECONDS = 4 * 3600
      # One is expected every night.
      AGE = 2.days
      private_constant :SECONDS, :AGE

      # @return [String] eight digits that tell this studio from others, and stay with it when it is restored
      def self.studio = Core::Sum.of((Person.order(:id).pick(:created_at) || Time.at(0)).utc.iso8601(6))[0, 8]

      # @return [StudioBackup, nil] the last that is whole
      def self.last_good = where.not(made_at: nil).order(:made_at).last

      # @return [Boolean] whether the last nights left none, in a studio that is older than they
      def self.late?
        (last_good&.made_at || Library.minimum(:created_at) || Time.current) < AGE.ago
      end

      # @param person [Person, nil] who asked for it; nobody at night
      # @return [StudioBackup] begun
      # @raise [Core::Problem] while another is under way
      def self.begin(person = nil)
        now = Time.current
        transaction(requires_new: true) { create!(person:, file: Backups::Folder.here.name(now), created_at: now) }
      rescue ActiveRecord::RecordNotUnique
        raise Core::Problem, "A backup is being made already. Wait until it is done."
      end

      # Makes it where it is not made yet, restores it as a test, and deletes those that need not stay.
      #
      # @return [Boolean] whether the test told anything: one that was cut off is repeated later
      def make
        FileUtils.mkdir_p(folder.path, mode: 0o700)
        write unless there?
        problem ? true : try
      rescue SystemCallError => e
        fail("The folder of backups: #{e.message.sub(/ @ .*/, "")}. Earlier backups are untouched.")
      end

      # Restores it as a test.
      #
      # @return [Boolean] as #make
      def try
        tried = program("restore", path, "--test")
        # The machine or the database went, which says nothing of the file.
        update!(ended_at: Time.current) and return false if tried["cut_off"]
        folder.prune unless tried["problem"]
        update!(test_problem: tried["problem"], tried_at: Time.current, ended_at: Time.current)
      end

      # @param sentence [String] why there is none; of one that is whole nothing is wrong
      def fail(sentence) = update!(problem: (sentence unless there?), ended_at: Time.current)

      # @return [Boolean] whether its file still lies where it was made
      def there? = !made_at.nil? && File.file?(File.join(Backups::Folder.here.path, file))

      private

      def folder = @folder ||= Backups::Folder.here

      def path = File.join(folder.path, file)

      def write
        said = program("backup", "--all", "-o", path)
        return fail(said["problem"]) if said["problem"]
        update!(said.slice("size", "rows", "pictures").merge(made_at: Time.current))
      end

      ENDED = "The program that makes it ended by itself; the server's log says more. Earlier backups are untouched."
      PROGRAM = ['require "command_line"; exit Fobrel::CommandLine.run(ARGV)', "--"].freeze
      private_constant :ENDED, :PROGRAM

      # @return [Hash] what it said, or the problem in a sentence
      def program(*words)
        command = [RbConfig.ruby, "-I", File.join(ROOT, "cli"), "-e", *PROGRAM, *words, "--json"]
        said, trouble = Array.new(2) { Tempfile.new("fobrel-backup").tap(&:unlink) }
        environment = {"DATABASE_URL" => self.class.connection_db_config.url}
        ended = in_time(Process.spawn(environment, *command, in: File::NULL, out: said, err: trouble))
        said, trouble = [said, trouble].map { |io| io.tap(&:rewind).read.tap { io.close } }
        return JSON.parse(said) if ended&.success?
        # Exit 1 is a sentence for people.
        if ended&.exitstatus == 1 && trouble.lines.size == 1
          # Where it lies is for the log.
          return {"problem" => trouble.strip.gsub(%r{(?<![\w.])/(?:[\w.-]+/)+}, "")[0, 500]}
        end
        Watching::Log.trouble("The program that makes a backup", trouble.strip)
        {
          "problem" => ended ? ENDED : "It took over #{SECONDS / 3600} hours. Earlier backups are untouched.",
          "cut_off" => true
        }
      end

      # @return [Process::Status, nil] nil when it took too long and was ended
      def in_time(pid)
        Timeout.timeout(SECONDS) { Process.wait2(pid).last }
      rescue Timeout::Error
        Process.kill("KILL", pid)
        Process.wait(pid) && nil
      end
    end
  end
end
