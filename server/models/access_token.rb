# frozen_string_literal: true

module Fobrel
  module Models
    # Lets a program act for a person, with the rights of that person. Only its sum is kept.
    class AccessToken < Record
      belongs_to :person
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, length: {in: 1..60}

      # @return [Array(AccessToken, String)] the record, and the token, which is shown only now
      def self.issue(person, name)
        token = "fobrel_#{SecureRandom.urlsafe_base64(32)}"
        [create!(person:, name:, digest: Core::Sum.of(token)), token]
      end

      # @param token [String]
      # @return [Person, nil]
      def self.person(token)
        found = includes(:person).find_by(digest: Core::Sum.of(token)) or return
        found.update_columns(last_used_at: Time.current) if found.last_used_at.nil? || found.last_used_at < 1.minute.ago
        found.person
      end
    end
  end
end
