# frozen_string_literal: true

module Fobrel
  module Models
    # The answer to a request that changed something, kept for a while under the key that the page
    # gave it: asked again because the answer was lost on its way, it is not done a second time.
    class Reply < Record
      KEEP = 1.day
      # A request whose process died is given up after this long.
      GIVEN_UP = 60.seconds
      MOST_BYTES = 256 * 1024

      belongs_to :person

      # @param key [String] the page's own, new for each deed
      # @param asked [String] method and path
      # @return [Reply] one of our own to be answered (`fresh?`), or the one there is
      def self.begin(person, key, asked)
        where(created_at: ..KEEP.ago).delete_all if rand(100).zero?
        where(person:, key:, status: nil, created_at: ..GIVEN_UP.ago).delete_all
        made = insert({person_id: person.id, key:, asked:, created_at: Time.current}, returning: :id).rows.any?
        find_by!(person:, key:).tap { _1.fresh = made }
      end

      attr_writer :fresh

      # @return [Boolean] whether this request is the one to do it
      def fresh? = @fresh

      # @return [Boolean] whether it is being done elsewhere at this moment
      def under_way? = !fresh? && status.nil?

      # Keeps what was answered; what failed on our side, or is large, may be asked for anew.
      #
      # @param keep [Boolean] false for what must not be written down
      def answered(status, body, keep: true)
        (keep && status < 500 && body.bytesize <= MOST_BYTES) ? update!(status:, body:) : destroy!
      end
    end
  end
end
