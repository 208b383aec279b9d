# frozen_string_literal: true

module Fobrel
  module Actions
    # Whoever runs the studio lets another run it too, or shuts an account.
    class ChangePerson < Action
      # @param wish [Hash] "owner", "closed"
      def initialize(person:, other:, wish:)
        @person = person
        @other = other
        @wish = wish
      end

      # @return [Hash] {ok: true}
      # @raise [Core::Problem]
      def call
        check
        closed = @wish.key?("closed") ? (Time.current if @wish["closed"]) : @other.closed_at
        @other.update!(owner: @wish.fetch("owner", @other.owner), closed_at: closed)
        @other.sign_ins.end_all if closed
        Models::FollowRight.end_without_lead(@other.libraries, by: @person) if closed
        said.each { |one| Models::HistoryEntry.write(nil, @person, "account", one, about: [@other]) }
        {ok: true}
      end

      private

      def said
        changed = @other.saved_changes.keys
        words = {
          "owner" => "#{@other.name} #{@other.owner ? "runs the studio too" : "runs the studio no more"}",
          "closed_at" => "The account of #{@other.name} #{@other.closed_at ? "shut" : "opened again"}"
        }
        words.slice(*changed).values
      end

      def check
        if @other == @person && (@wish["closed"] || @wish["owner"] == false)
          raise Core::Problem, "You cannot take this from yourself. Somebody else who runs the studio can."
        end
        return unless @wish["closed"]
        led = @other.last_lead_of.reject { |library| library.person_id == @other.id }
        return if led.empty?
        raise Core::Problem,
          "#{@other.name} is the last lead of #{led.map { |one| "“#{one.name}”" }.join(", ")}. Nothing was changed. " \
            "Make somebody else lead there first."
      end
    end
  end
end
