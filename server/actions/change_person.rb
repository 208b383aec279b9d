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
        {ok: true}
      end

      private

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
