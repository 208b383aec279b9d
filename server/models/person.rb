# frozen_string_literal: true

module Fobrel
  module Models
    # Somebody who signs in.
    class Person < Record
      has_secure_password
      has_many :memberships, dependent: :destroy
      has_many :libraries, through: :memberships
      has_many :trial_strokes
      has_many :access_tokens
      has_many :favourites
      has_many :recents

      normalizes :login, with: -> { _1.strip.downcase }
      validates :name, presence: true
      validates :login, presence: true, uniqueness: true
      validates :password, length: {minimum: 10}, allow_nil: true
    end
  end
end
