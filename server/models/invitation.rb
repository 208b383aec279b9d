# frozen_string_literal: true

module Fobrel
  module Models
    # A link that lets one person into a library, once, until it ends. Only the sum of its key is kept.
    class Invitation < Record
      LASTS = 7.days
      # Open ones of a library.
      MOST = 50

      belongs_to :library
      belongs_to :person
      belongs_to :used_by, class_name: "Fobrel::Models::Person", optional: true
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, length: {maximum: 60}
      validates :role, inclusion: {in: Membership::MAY.keys}

      scope :open, -> { where(used_by_id: nil, ends_at: Time.current..) }

      # @return [Array(Invitation, String)] the record, and the key that stands in the link, which is shown only now
      def self.issue(library, person, role:, name:)
        key = SecureRandom.urlsafe_base64(24)
        [create!(library:, person:, role:, name:, digest: Core::Sum.of(key), ends_at: LASTS.from_now), key]
      end

      # @param key [String]
      # @return [Invitation, nil] one that still counts: whoever sent it may invite still
      def self.of(key)
        found = open.includes(:library, :person).find_by(digest: Core::Sum.of(key)) or return
        inviter = found.person.memberships.find_by(library: found.library)
        found if inviter&.may?(:people) && found.person.closed_at.nil? && found.library.archived_at.nil?
      end
    end
  end
end
