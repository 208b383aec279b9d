# frozen_string_literal: true

module Fobrel
  module Jobs
    # A backup of the whole studio: each night, and when whoever runs the studio asks for one; see Models::StudioBackup.
    class BackUpStudio < Que::Job
      self.priority = Queue::NIGHT
      self.maximum_retry_count = 2
      GIVEN_UP = "Something went wrong on our side. Earlier backups are untouched. Whoever runs this Fobrel finds " \
        "more in its log."
      private_constant :GIVEN_UP

      # Both or neither: one that is begun and that nobody makes would be in the way of all others.
      #
      # @param person [Models::Person, nil]
      # @return [Models::StudioBackup] begun
      # @raise [Core::Problem] while another is under way
      def self.begin(person = nil)
        Models::Record.transaction { Models::StudioBackup.begin(person).tap { enqueue(_1.id) } }
      end

      # What the night begins, unless one is being made at this moment.
      def self.tonight
        self.begin
      rescue Core::Problem
        nil
      end

      def run(id)
        @backup = Models::StudioBackup.find_by(id:, ended_at: nil) or return
        @backup.make or TryBackup.later(@backup)
      end

      def handle_error(error)
        Watching::Log.trouble(self.class.name, error)
        return super if error_count < self.class.maximum_retry_count
        @backup&.reload&.fail(GIVEN_UP)
        TryBackup.later(@backup) if @backup&.there?
        expire
      end
    end
  end
end
