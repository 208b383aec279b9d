# frozen_string_literal: true

module Fobrel
  module Jobs
    # A night's cleaning, or one that somebody asked for; see Models::Cleaning.
    class CleanUp < Que::Job
      self.priority = Queue::NIGHT
      self.maximum_retry_count = 3

      # The hour from which on a night's work is begun, of the server's own time.
      HOUR = Integer(ENV.fetch("CLEAN_HOUR", 3))

      # Queues tonight's, once, whichever process comes first.
      def self.due(now = Time.now)
        return if now.hour < HOUR || @night == now.to_date
        @night = now.to_date
        made = Models::Cleaning.insert(
          {night: now.to_date, created_at: Time.current},
          unique_by: :night,
          returning: :id
        ).rows.first
        return unless made
        enqueue(made.first)
        DailySummary.enqueue
        BackUpStudio.tonight
        Models::Library.in_use.find_each { |library| Models::SpreadDay.keep(library) }
      end

      # @param person [Models::Person]
      # @return [Models::Cleaning] begun
      def self.now(person)
        Models::Cleaning.create!(person:).tap { enqueue(_1.id) }
      end

      def run(id) = Models::Cleaning.find_by(id:, ended_at: nil)&.run
    end
  end
end
