# frozen_string_literal: true

module Fobrel
  module Models
    # Lets a program act for a person, with the rights of that person. Only its sum is kept.
    class AccessToken < Record
      belongs_to :person
      after_destroy { Live.tell(what: Live::ACCESS, people: [person_id]) }
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, length: {in: 1..60}

      # What it may do at the most; the person's own rights count too.
      SCOPES = {"read" => "look and fetch", "write" => "all that you may do"}.freeze
      belongs_to :library, optional: true
      belongs_to :desk, optional: true
      validates :scope, inclusion: {in: SCOPES.keys}

      # @param limits [Hash] scope, library, desk, ends_at
      # @return [Array(AccessToken, String)] the record, and the token, which is shown only now
      def self.issue(person, name, **limits)
        token = "fobrel_#{SecureRandom.urlsafe_base64(32)}"
        [create!(person:, name:, digest: Core::Sum.of(token), **limits), token]
      end

      # @param token [String]
      # @return [AccessToken, nil] one that still counts
      def self.of(token)
        found = includes(:person).find_by(digest: Core::Sum.of(token)) or return
        return if found.ends_at&.past? || found.person.closed_at
        found.update_columns(last_used_at: Time.current) if found.last_used_at.nil? || found.last_used_at < 1.minute.ago
        found
      end

      # What belongs to no library and is the same for everybody.
      COMMON = %r{\A/api/(session|settings|strips/.*)\z}
      private_constant :COMMON

      # @param operation [Contract::Operation]
      # @param path [String] as it was asked for
      # @param library_id [Integer, nil] whose library it is about
      # @return [Boolean] whether it reaches so far
      def reaches?(operation, path, library_id)
        return false if scope == "read" && operation.changes?
        return true if desk_id && path == "/api/my-desk"
        return path.match?(%r{\A/api/desks/#{desk_id}/(start|files/[0-9a-f]{64}|report)\z}) if desk_id
        return true if operation.verb == "GET" && path.match?(COMMON)
        library_id.nil? ? self.library_id.nil? : [nil, library_id].include?(self.library_id)
      end
    end
  end
end
