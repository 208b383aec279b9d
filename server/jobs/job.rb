# frozen_string_literal: true

module Fobrel
  module Jobs
    # Long work on the database's own queue, told by a Task. When its process dies, another takes
    # it up from the start; what it changes, it changes in one transaction.
    class Job < Que::Job
      # So often a piece of work is begun, whether it fails or takes its process down with it.
      TRIES = 3
      GIVEN_UP = "This could not be done: each of #{TRIES} tries ended before it was through. Nothing was changed. " \
        "The files may be more than this machine can hold; bring them in smaller parts."
      NO_RIGHT = "Whoever asked for this may not do it any more. Nothing was changed. Ask a lead of this library."
      private_constant :GIVEN_UP, :NO_RIGHT

      # Raised in one sentence when a try has taken longer than any honest one.
      class TooLong < Core::Problem; end

      # Seconds for one try.
      SECONDS = Integer(ENV.fetch("JOB_SECONDS", 1800))

      self.maximum_retry_count = TRIES
      # Seconds before the next try.
      self.retry_interval = ->(failed) { 2 * failed }

      # Writes the task down and queues the work.
      #
      # @param about [Hash] what the work needs to know
      # @return [Models::Task]
      def self.begin(library:, person:, about:, message:)
        about = about.merge("via" => History::Via.now)
        task = Models::Task.create!(library:, person:, kind: name.demodulize, about:, message:)
        enqueue(task.id, job_options: {priority: short?(about) ? Queue::SHORT : Queue::LONG})
        task
      end

      # What a person must still be let do when their work comes up; nil for work of nobody.
      #
      # @param about [Hash] as above
      # @return [Symbol, nil] a deed of Models::Membership
      def self.needs(_about) = :edit

      # @param about [Hash] as above
      # @return [Boolean] whether it is done within seconds, so that it need not wait for what is not
      def self.short?(_about) = false

      def run(id)
        @task = Models::Task.find_by(id:) or return
        return if @task.over?
        # What did not end well once is done in a process of its own, so that it takes no other work with it.
        apart = @task.tries.positive?
        return stopped(GIVEN_UP) if @task.begun > TRIES
        return stopped(NO_RIGHT) unless may_still?
        @task.tell(@task.done, @task.total)
        Core::Apart.for(Core::Apart::Turn.new(who: @task.person_id, where: @task.library_id, rank: :later)) {
          apart ? Aside.work(self.class, id) : work_in_time
        }
      rescue Core::Apart::Ended => e
        stopped("#{e.message} Nothing was changed. Bring it in smaller parts, or save it anew.")
      rescue Core::Problem => e
        stopped(e.message)
      end

      # @api private
      def self.work_here(id)
        job = new({args: [id]})
        job.instance_variable_set(:@task, Models::Task.find(id))
        job.work_in_time
      end

      # @api private
      def work_in_time
        Timeout.timeout(
          SECONDS,
          TooLong,
          "This took longer than #{SECONDS / 60} minutes and was ended. Nothing was changed. Bring it in smaller parts."
        ) {
          History::Via.from(@task.about.fetch("via", "job")) { work(@task.about) }
        }
      end

      # Tells of every step at most ten times a second.
      def progress
        last = 0
        lambda do |done, total, message = @task.message|
          now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
          next if now - last < 0.1 && done < total
          last = now
          @task.tell(done, total, message)
        end
      end

      # After an error of our own: it is tried again, then told.
      def handle_error(error)
        Watching::Log.trouble(self.class.name, error)
        return super if error_count < TRIES && !error.is_a?(ActiveRecord::RecordNotFound)
        stopped(
          "Something went wrong on our side, #{TRIES} times (#{error.class.name.demodulize}). What was there before " \
            "is still there, and nothing else was changed. Whoever runs this Fobrel finds more in its log."
        )
        expire
      end

      private

      # Somebody may have left, been given another role, or been shut out since they asked.
      def may_still?
        needed = self.class.needs(@task.about)
        return true if needed.nil? || @task.person.nil?
        member = @task.person.memberships.find_by(library: @task.library)
        @task.person.closed_at.nil? && !member.nil? && member.may?(needed)
      end

      # What is to be put right when it did not go well.
      def undone = nil

      def stopped(sentence)
        @task&.reload&.fail(sentence)
        @import ||= Models::Import.find_by(id: @task.about["import"]) if @task
        undone
      end
    end
  end
end
