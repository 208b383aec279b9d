# frozen_string_literal: true

module Fobrel
  module Models
    # What a person asked the external gallery last, and what it said. A request writes down what is
    # asked; only a job asks it, so that a gallery that is silent holds no page up.
    class GalleryLook < Record
      belongs_to :person

      # After the gallery was silent, nobody waits for it again for so long, seconds.
      REST = 15
      # A question that is older was lost with whatever was to ask it.
      LOST = 60

      # Writes the question down, in place of the last one of this person.
      #
      # @param query [String] what to look for; empty finds all
      # @param candidate [String, nil] a token to sign in with, if the gallery knows it
      # @return [GalleryLook]
      def self.begin(person, query, candidate: nil)
        look = find_or_initialize_by(person:)
        look.packages = [] unless look.query == query
        look.update!(query:, candidate:, problem: nil, asked_at: Time.current, answered_at: nil)
        Jobs::LookIntoGallery.enqueue(look.id)
        look.reload
      end

      # @return [Boolean] whether an answer is waited for
      def asking? = answered_at.nil? && asked_at > LOST.seconds.ago

      # Asks the gallery, unless it was silent a moment ago. What was asked meanwhile counts instead.
      def ask
        token = candidate || GalleryToken.find_by(person:)&.token or return
        if self.class.where(silent_at: REST.seconds.ago..).exists?
          return answered(
            packages: [],
            problem: format(Gallery::External::SILENT, "a moment ago"),
            silent_at:
          )
        end
        found = Gallery::External.new(token).list(query, within: Gallery::External::LOOK_SECONDS)
          .map { |package| package.except("sha256") }
        GalleryToken.find_or_initialize_by(person:).update!(token:) if candidate
        answered(packages: found)
      rescue Gallery::External::Failed => e
        answered(packages: [], problem: e.message, silent_at: (Time.current if e.is_a?(Gallery::External::Silent)))
      end

      private

      def answered(packages:, problem: nil, silent_at: nil)
        self.class.where(id:, asked_at:).update_all(
          packages:,
          problem:,
          silent_at:,
          candidate: nil,
          answered_at: Time.current
        )
      end
    end
  end
end
