# frozen_string_literal: true

module Fobrel
  module Actions
    # A lead of a publishing library grants, refuses or ends another library's right to follow its bundles. What that
    # library has taken stays with it.
    class DecideFollowRight < Deed
      WORDS = {
        "granted" => "may follow its bundles",
        "refused" => "may not follow its bundles",
        "ended" => "may no longer follow its bundles"
      }.freeze
      private_constant :WORDS

      # @param right [Models::FollowRight]
      # @param state [String] "granted", "refused" or "ended"
      # @param reason [String]
      def initialize(right:, person:, state:, reason: "")
        @right = right
        @person = person
        @state = state
        @reason = reason.strip
      end

      # @return [Models::FollowRight]
      # @raise [Core::Problem] where it is in that state already
      def call
        @right.lock!
        raise Core::Problem, "This was decided already. Reload to see how." if @right.state == @state
        @right.finish(@state, by: @person, reason: @reason)
        write_down(@right.publisher, @person, "follow", "“#{@right.library.name}” #{WORDS.fetch(@state)}")
        @right
      end
    end
  end
end
