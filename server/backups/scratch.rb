# frozen_string_literal: true

module Fobrel
  module Backups
    # A temporary database beside the studio's own: what is restored there, as a test or to take something out,
    # touches nothing else.
    module Scratch
      # What the name of such a database ends with.
      MARK = "_scratch"
      private_constant :MARK

      # Whatever is asked within is asked of that database.
      #
      # @param url [String] of the studio's database; its role must be allowed to make another
      # @yield with this process connected to the empty one
      # @raise [Core::Problem] where it is not allowed to
      def self.within(url = ENV.fetch("DATABASE_URL"), &)
        at = URI(url)
        name = "#{at.path.delete_prefix("/")[0, 50]}#{MARK}_#{SecureRandom.hex(4)}"
        made = server(url) { |one| one.exec(%(CREATE DATABASE "#{name}")) }
        scratch = at.dup.tap { _1.path = "/#{name}" }.to_s
        # Somebody is connected to it for all that time: nobody else's sweeping takes it away.
        server(scratch) { switch(scratch, url, &) }
      rescue PG::InsufficientPrivilege
        raise Core::Problem,
          "The database's role may not make a database to try it in. Nothing was changed. " \
            "Allow it: ALTER ROLE … CREATEDB."
      ensure
        server(url) { |one| one.exec(%(DROP DATABASE IF EXISTS "#{name}" WITH (FORCE))) } if made
      end

      # Takes away those that were left by a process that was ended, when nobody is connected to them.
      def self.sweep(url = ENV.fetch("DATABASE_URL"))
        server(url) do |one|
          names = one.exec_params(<<~SQL, [URI(url).path.delete_prefix("/")[0, 50] + MARK]).column_values(0)
            SELECT datname FROM pg_database d WHERE starts_with(datname, $1)
            AND NOT EXISTS (SELECT 1 FROM pg_stat_activity a WHERE a.datid = d.oid)
          SQL
          names.each { |name| one.exec(%(DROP DATABASE IF EXISTS "#{name}")) }
        end
      end

      def self.server(url)
        connection = PG.connect(url)
        yield connection
      ensure
        connection&.close
      end

      def self.switch(url, back)
        ActiveRecord::Base.connection_handler.clear_all_connections!
        Database.connect(url, patience: Database::JOB_PATIENCE)
        yield
      ensure
        ActiveRecord::Base.connection_handler.clear_all_connections!
        Database.connect(back)
        Database.look_anew
      end
      private_class_method :server, :switch
    end
  end
end
