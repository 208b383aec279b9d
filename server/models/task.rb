# frozen_string_literal: true

module Fobrel
  module Models
    # Long work: what it is, how far it is, how it ended. It can be left and looked at again.
    class Task < Record
      belongs_to :library
      belongs_to :person, optional: true

      # Counts the beginnings, whatever becomes of the work.
      #
      # @return [Integer] how often it was begun, this time included
      def begun
        self.class.where(id:).update_all("tries = tries + 1")
        reload.tries
      end

      # @return [Integer] how many pieces of work were asked for earlier, while this one waits for its turn
      def before = (state == "waiting") ? self.class.where(state: %w[waiting working], id: ...id).count : 0

      # @return [Boolean] whether it ended, well or not
      def over? = %w[done failed].include?(state)

      # Says how far it is. On a connection of its own, so that it is seen while the work itself
      # is not finished, and stays true when the work is taken back.
      #
      # @param done [Integer]
      # @param total [Integer]
      # @param message [String]
      def tell(done, total, message = self.message)
        values = {state: "working", done:, total:, message: message.to_s[0, 500], updated_at: Time.current}
        Thread.new {
          self.class.connection_pool.with_connection {
            self.class.where(id:, state: %w[waiting working]).update_all(values)
          }
        }.join
      end

      # @param message [String]
      def finish(message) = update!(state: "done", message: message[0, 500], done: [done, total].max)

      # @param sentence [String] what happened, what was kept, what to do
      def fail(sentence) = update!(state: "failed", message: sentence[0, 500])
    end
  end
end
