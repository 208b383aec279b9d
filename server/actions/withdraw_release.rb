# frozen_string_literal: true

module Fobrel
  module Actions
    # Withdraws a release with a reason. It can still be downloaded by those who need it.
    class WithdrawRelease < Deed
      # @param reason [String]
      def initialize(release:, person:, reason:)
        @release = release
        @person = person
        @reason = reason.strip
      end

      # @return [Models::HistoryEntry]
      def call
        if @reason.empty?
          raise Core::Problem,
            "Say why it is withdrawn, so that whoever has it knows. Nothing was changed."
        end
        raise Core::Problem, "Release #{@release.number} is withdrawn already." if @release.withdrawn_at
        @release.update!(withdrawn_at: Time.current, withdrawn_reason: @reason[0, 500])
        tell
        write_down(
          @release.bundle.library,
          @person,
          "withdraw",
          "“#{@release.bundle.name}” #{@release.number} withdrawn: #{@reason[0, 100]}",
          about: [@release, @release.bundle]
        )
      end

      private

      # Whoever has it.
      def tell
        @release.follows.includes(:library).each do |follow|
          follow.tell_leads(
            "“#{@release.bundle.name}” #{@release.number}, which “#{follow.library.name}” has, was withdrawn: " \
              "#{@reason}"
          )
          Models::Live.tell(what: "library", library: follow.library_id)
        end
      end
    end
  end
end
