# frozen_string_literal: true

module Fobrel
  module Models
    # What somebody says about a brush, one of its versions, a release or a proposal; it may point at a place of the
    # strip.
    class Comment < Record
      ABOUT = {"preset" => Preset, "release" => Release, "proposal" => Proposal}.freeze

      belongs_to :library
      belongs_to :person
      normalizes :text, with: ->(text) { text.strip }
      validates :about, inclusion: {in: ABOUT.keys}
      validates :text, length: {in: 1..2000}

      # "@tove", wherever it stands.
      MENTION = /(?<![\p{L}\p{N}._-])@([\p{L}\p{N}._-]{2,40})/

      # @return [String, nil] the fingerprint of the version that is meant
      def pointed_at
        version && Version.where(preset_id: about_id, number: version).pick(:fingerprint)
      end

      # @return [Array<Person>] of this library who are named in it
      def mentioned
        logins = text.scan(MENTION).flatten.flat_map { |one| [one.downcase, one.downcase.sub(/\.+\z/, "")] }
        library.people.here.where(login: logins).distinct.to_a
      end
    end
  end
end
