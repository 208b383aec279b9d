# frozen_string_literal: true

module Fobrel
  module Actions
    # Follows the newest releases of a bundle, stays where the library is, or follows it no more; the brushes stay, as
    # the library's own.
    class ChangeFollow < Deed
      # @param stays [Boolean, nil] nil: no more
      def initialize(follow:, person:, stays: nil)
        @follow = follow
        @person = person
        @stays = stays
      end

      # @return [Models::Follow]
      def call
        @follow.lock!
        @stays.nil? ? no_more : change
        said = "“#{@follow.bundle.name}” #{words}"
        write_down(@follow.library, @person, "follow", said, about: [@follow]) unless changes.empty?
        @follow
      end

      private

      def no_more
        brushes = Models::FollowedBrush.where(follow: @follow)
        changes.watch(brushes) { brushes.delete_all }
        changes.watch(Models::Follow.where(id: @follow)) { @follow.destroy! }
      end

      def change = changes.watch(Models::Follow.where(id: @follow), %w[stays]) { @follow.update!(stays: @stays) }

      def words
        return "followed no more; its brushes stay" if @stays.nil?
        @stays ? "followed, but stays at its release" : "followed at its newest"
      end
    end
  end
end
