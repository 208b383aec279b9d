# frozen_string_literal: true

module Fobrel
  module Jobs
    # Repeats the test of a backup that is whole, where the first one was cut off.
    class TryBackup < Que::Job
      self.priority = Queue::NIGHT
      PAUSE = 30.minutes
      TRIES = 4
      private_constant :PAUSE, :TRIES

      # @param backup [Models::StudioBackup]
      # @param tries [Integer] that were cut off before
      def self.later(backup, tries = 1)
        return if tries > TRIES
        enqueue(backup.id, tries, job_options: {run_at: Time.current + (tries * PAUSE)})
      end

      def run(id, tries)
        backup = Models::StudioBackup.find_by(id:, tried_at: nil) or return
        return unless backup.there?
        backup.try or self.class.later(backup, tries + 1)
      end
    end
  end
end
