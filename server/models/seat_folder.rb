# frozen_string_literal: true

module Fobrel
  module Models
    # The folder of a seat of this machine: brought to its plan by the same agent that other computers run, and looked
    # at. Nothing of it lies in a transaction: a folder does not go back with the database.
    class SeatFolder
      # Where the agent gets plans and files when it needs no network.
      Source = Struct.new(:seat) do
        def plan(etag)
          # The newest when the folder's turn comes, not when somebody began to wait for it.
          plan = seat.reload.handed or return
          {etag: plan.etag, plan: plan.document, kept: seat.left_alone} unless plan.etag == etag
        end

        def fetch(sum, from)
          bytes = SeatPlan.bytes(sum) or raise Core::Startup::Agent::Away, "A file of the plan is not kept any more."
          yield bytes.byteslice(from..)
        end
      end

      # @param seat [Seat]
      def initialize(seat)
        @seat = seat
      end

      # @param repair [Boolean, Array<String>] see Core::Startup::Agent#pull
      # @return [Core::Startup::Agent::Done]
      # @raise [Core::Problem]
      def pull(repair: false)
        done = Core::Startup::Agent.new(@seat.path, Source.new(@seat), patience: PATIENCE).pull(repair:)
        look
        done
      end

      # Seconds that a pull waits for another one of the same folder.
      PATIENCE = 20
      # Of the database's advisory locks: a look at a seat's folder.
      LOCK = 4_810_002
      private_constant :PATIENCE, :LOCK

      # What lies there, against what was handed out; noted where it became another.
      #
      # @return [Hash] as Core::Startup::Drift.found gives it
      def look
        one_at_a_time do
          @seat.reload
          found = Core::Startup::Drift.found(Core::Startup::Folder.new(@seat.path), kept: @seat.left_alone)
          self.class.note(@seat, found)
          found
        end
      end

      # Two who look at once would note what they saw in any order, and the older look could be the last word.
      def one_at_a_time
        Record.transaction(requires_new: true) do
          Record.connection.execute("SELECT pg_advisory_xact_lock(#{LOCK}, #{@seat.id})")
          yield
        end
      end
      private :one_at_a_time

      # Keeps what was found at a seat, by whoever looked.
      #
      # @param seat [Seat]
      # @param found [Hash]
      def self.note(seat, found)
        was = SeatState.of(seat)
        changed = seat.found != found
        if changed || seat.found_at.nil? || seat.found_at < 1.minute.ago
          seat.update_columns(
            found:,
            found_at: Time.current
          )
        end
        return unless changed
        now = SeatState.of(seat)
        return if now.word == was.word && now.said == was.said
        seat.note(now.word, now.said)
        Live.tell(what: "library", library: seat.library_id)
        tell_leads(seat, now) if now.word == "changed on the desk" && was.word != "changed on the desk"
      end

      def self.tell_leads(seat, state)
        leads = seat.library.people.here.where(memberships: {role: "lead"}).to_a
        Notice.tell(
          [
            *leads,
            *seat.person
          ],
          library: seat.library,
          kind: "seat",
          text: "#{seat.name} was changed: #{state.said}",
          path: "/desks?seat=#{seat.id}"
        )
      end
      private_class_method :tell_leads
    end
  end
end
