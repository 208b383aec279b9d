# frozen_string_literal: true

module Fobrel
  module Models
    # Somebody who signs in.
    class Person < Record
      has_secure_password
      has_many :memberships, dependent: :destroy
      has_many :libraries, through: :memberships
      has_many :sample_strokes
      has_many :access_tokens
      has_many :favourites
      has_many :recents
      has_many :sign_ins
      has_many :notices
      has_one :own_library, class_name: "Fobrel::Models::Library"

      normalizes :login, with: Core::Names.method(:login)
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, presence: true
      validates :login, presence: true, uniqueness: true
      validates :login, length: {in: 2..40}, format: {with: Core::Names::LOGIN}
      validates :name, length: {maximum: 60}
      validate :password_rule, if: :password
      validate {
        unless Core::Names.one_script?(login.to_s)
          errors.add(
            :login,
            "has letters of several scripts, which look alike"
          )
        end
      }

      # More than there are views.
      MOST_HINTS = 60

      # Who is still of the studio.
      scope :here, -> { where(closed_at: nil) }

      # Where the sum of the key lies that lets the first person in.
      FIRST_KEY = File.join(Fobrel.var, "begin.sum")

      # @return [String, nil] the sum of the key that lets the first person in; nil once there is one
      def self.first_key = (File.read(FIRST_KEY) if none? && File.exist?(FIRST_KEY))

      # @return [String] a new key that lets the first person in; only its sum is kept
      def self.new_first_key
        SecureRandom.urlsafe_base64(24).tap { |key| File.write(FIRST_KEY, Core::Sum.of(key), perm: 0o600) }
      end

      # @param name [String] of a hint that need not be shown to this person again
      def read_hint(name)
        with_lock { update!(hints: (hints | [name]).last(MOST_HINTS)) }
      end

      # Libraries in which nobody else is lead.
      #
      # @return [Array<Library>]
      def last_lead_of
        mine = memberships.where(role: "lead").pluck(:library_id)
        others = Membership.joins(:person).merge(Person.here).where(library_id: mine, role: "lead")
          .where.not(person_id: id).pluck(:library_id)
        Library.where(id: mine - others).to_a
      end

      # Each has a library of their own; it is made when they first need it.
      #
      # @return [Library]
      def own_library!
        reload_own_library || Library.create!(name: "#{name}’s own", kind: "personal", person: self).tap { |made|
          made.memberships.create!(person: self, role: "lead")
        }
      end

      private

      def password_rule
        problem = PasswordRule.problem(password, [login, name, *name.to_s.split])
        errors.add(:base, problem) if problem
      end
    end
  end
end
