# frozen_string_literal: true

module Fobrel
  module Models
    # A session of a person: from signing in until they sign out, do nothing for too long, or it has lasted long
    # enough. The cookie holds a key to it; only the key's sum is kept here.
    class SignIn < Record
      belongs_to :person

      # Ends by itself after so long without a request, and after so long in all (NIST SP 800-63B, 4.1.3: at the
      # latest after 30 days).
      IDLE = Integer(ENV.fetch("SESSION_IDLE_DAYS", 14)).days
      LASTS = Integer(ENV.fetch("SESSION_DAYS", 30)).days
      # So often it is written down that somebody is there.
      STEP = 1.minute
      # What is known of a browser, characters.
      LONGEST = 200

      scope :live,
        -> {
          where(ended_at: nil).where(created_at: LASTS.ago.., seen_at: IDLE.ago..).joins(:person)
            .where(people: {closed_at: nil})
        }

      # @param address [String] where the request came from
      # @param agent [String] what the browser says of itself
      # @return [Array(SignIn, String)] the record, and the key for the cookie
      def self.begin(person, address:, agent:)
        key = SecureRandom.urlsafe_base64(32)
        now = Time.current
        where(person:).where(ended_at: ..LASTS.ago).or(where(person:, created_at: ..(2 * LASTS).ago)).delete_all
        made = create!(
          person:,
          digest: Core::Sum.of(key),
          address: address.to_s[0, LONGEST],
          agent: agent.to_s.scrub[0, LONGEST],
          created_at: now,
          seen_at: now
        )
        [made, key]
      end

      # @param key [String, nil]
      # @return [SignIn, nil] one that still counts
      def self.of(key)
        return unless key.is_a?(String)
        found = live.includes(:person).find_by(digest: Core::Sum.of(key)) or return
        found.update_columns(seen_at: Time.current) if found.seen_at < STEP.ago
        found
      end

      # They count no more, whoever has the cookie, and lines that pages listen on end with them.
      def self.end_all
        people = where(ended_at: nil).distinct.pluck(:person_id)
        where(ended_at: nil).update_all(ended_at: Time.current)
        Live.tell(what: Live::ACCESS, people:)
      end
    end
  end
end
