# frozen_string_literal: true

module Fobrel
  module Jobs
    # Looks by itself at the folders of this machine's desks: what was altered there is known before the next start. A
    # plan that was sent but never reached its folder is written.
    module WatchedDesks
      EVERY = 10
      # So long a folder that could not be written to is let be, in seconds.
      PATIENCE = 300
      # One process looks at a time, whichever comes first.
      LOCK = 4_810_002

      class << self
        # Looks for ever.
        def watch
          loop do
            look
          rescue => e
            Watching::Log.trouble("The desks' folders", e)
          ensure
            sleep EVERY
          end
        end

        # Looks once at every desk that has a plan.
        def look
          Models::Record.connection_pool.with_connection do |connection|
            next unless connection.select_value("SELECT pg_try_advisory_lock(#{LOCK})")
            begin
              Models::Desk.workplaces.in_use.where(away: false).where.not(sent_at: nil).find_each { |desk|
                look_at(desk)
              }
            ensure
              connection.execute("SELECT pg_advisory_unlock(#{LOCK})")
            end
          end
        end

        private

        def look_at(desk)
          folder = Models::DeskFolder.new(desk)
          found = folder.look
          return if found["mark"] == Core::Startup::Plan.mark(desk.handed&.document) || tried_lately?(desk)
          folder.pull
        rescue SystemCallError, Core::Problem => e
          Watching::Log.trouble("The folder of #{desk.name}", e)
        end

        def tried_lately?(desk)
          now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
          @tried ||= {}
          return true if @tried[desk.id]&.>(now - PATIENCE)
          @tried[desk.id] = now
          false
        end
      end
    end
  end
end
