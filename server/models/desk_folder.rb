# frozen_string_literal: true

module Fobrel
  module Models
    # The folder of a desk of this machine: brought to its plan by the same agent that other computers run, and looked
    # at. Nothing of it lies in a transaction: a folder does not go back with the database.
    class DeskFolder
      # Where the agent gets plans and files when it needs no network.
      Source = Struct.new(:desk) do
        def plan(etag)
          # The newest when the folder's turn comes, not when somebody began to wait for it.
          plan = desk.reload.handed or return
          {etag: plan.etag, plan: plan.document, kept: desk.left_alone} unless plan.etag == etag
        end

        def fetch(sum, from)
          bytes = DeskPlan.bytes(sum) or raise Core::Startup::Agent::Away, "A file of the plan is not kept any more."
          yield bytes.byteslice(from..)
        end
      end

      # @param desk [Desk]
      def initialize(desk)
        @desk = desk
      end

      # @param repair [Boolean, Array<String>] see Core::Startup::Agent#pull
      # @return [Core::Startup::Agent::Done]
      # @raise [Core::Problem]
      def pull(repair: false)
        done = Core::Startup::Agent.new(@desk.path, Source.new(@desk), patience: PATIENCE).pull(repair:)
        look
        done
      end

      # Seconds that a pull waits for another one of the same folder.
      PATIENCE = 20
      # Of the database's advisory locks: a look at a desk's folder.
      LOCK = 4_810_002
      private_constant :PATIENCE, :LOCK

      # What lies there, against what was sent; noted where it became another.
      #
      # @return [Hash] as Core::Startup::Drift.found gives it
      def look
        one_at_a_time do
          @desk.reload
          found = Core::Startup::Drift.found(Core::Startup::Folder.new(@desk.path), kept: @desk.left_alone)
          self.class.note(@desk, found)
          found
        end
      end

      # Two who look at once would note what they saw in any order, and the older look could be the last word.
      def one_at_a_time
        Record.transaction(requires_new: true) do
          Record.connection.execute("SELECT pg_advisory_xact_lock(#{LOCK}, #{@desk.id})")
          yield
        end
      end
      private :one_at_a_time

      # Keeps what was found at a desk, by whoever looked.
      #
      # @param desk [Desk]
      # @param found [Hash]
      def self.note(desk, found)
        was = DeskState.of(desk)
        changed = desk.found != found
        if changed || desk.found_at.nil? || desk.found_at < 1.minute.ago
          desk.update_columns(
            found:,
            found_at: Time.current
          )
        end
        return unless changed
        now = DeskState.of(desk)
        return if now.word == was.word && now.said == was.said
        desk.note(now.word, now.said)
        Live.tell(what: "library", library: desk.library_id)
        tell_leads(desk, now) if now.word == "changed on the desk" && was.word != "changed on the desk"
      end

      def self.tell_leads(desk, state)
        leads = desk.library.people.here.where(memberships: {role: "lead"}).to_a
        Notice.tell(
          [
            *leads,
            *desk.person
          ],
          library: desk.library,
          kind: "desk",
          text: "#{desk.name} was changed: #{state.said}",
          path: "/desks?desk=#{desk.id}"
        )
      end
      private_class_method :tell_leads
    end
  end
end
