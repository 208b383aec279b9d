# frozen_string_literal: true

require "open3"

module Fobrel
  module Watching
    # Whether this process is there, and whether it could do what it is for.
    module Health
      # Bytes that must be free where files are kept.
      LEAST = Integer(ENV.fetch("DISK_LEAST", 300 * 1024 * 1024))
      # Seconds for which what the disk said counts.
      FOR = 20
      private_constant :FOR

      class << self
        # @return [Hash{Symbol => String}] "ok", or what is wrong in a sentence; nothing of it is secret
        def checks
          database = database()
          return {database:, disk: disk} unless database == "ok"
          {database:, migrations:, queue:, disk:}
        end

        private

        def database
          Models::Record.connection.select_value("SELECT 1") && "ok"
        rescue ActiveRecord::ActiveRecordError, PG::Error
          "The database does not answer."
        end

        def migrations
          known = context.migrations.map(&:version)
          (known - context.get_all_versions).empty? ? "ok" : "The tables are those of an earlier version."
        end

        def context = ActiveRecord::MigrationContext.new(File.join(ROOT, "db/migrate"))

        def queue = Models::Pulse.now.exists?(kind: "work") ? "ok" : "No process does long work."

        # Where everything is kept, and where what is sent is kept until it is read.
        def disk
          free = [Fobrel.var, Dir.tmpdir].filter_map { |folder| free(folder) }.min
          (free.nil? || free >= LEAST) ? "ok" : "The disk is full but for #{free / 1024 / 1024} MB."
        end
      end

      # @param folder [String]
      # @return [Integer, nil] bytes that are free there, as of some seconds ago; nil where nobody says
      def self.free(folder)
        now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        @free ||= {}
        bytes, at = @free[folder]
        return bytes if at && now - at < FOR
        said, ended = Open3.capture2e("df", "-Pk", folder)
        bytes = ended.success? ? said.lines.last.split[3].to_i * 1024 : nil
        @free[folder] = [bytes, now]
        bytes
      rescue SystemCallError
        nil
      end
    end
  end
end
