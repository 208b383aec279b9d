# frozen_string_literal: true

module Fobrel
  module Models
    # A library's right to follow bundles of another. A lead of the publisher grants it (or follows for both, which
    # grants it too) and can end it. It also ends when the following library has no lead left who may see the publisher.
    class FollowRight < Record
      STATES = %w[asked granted refused ended].freeze

      belongs_to :publisher, class_name: "Fobrel::Models::Library"
      belongs_to :library
      belongs_to :asked_by, class_name: "Fobrel::Models::Person", optional: true
      belongs_to :decided_by, class_name: "Fobrel::Models::Person", optional: true
      validates :state, inclusion: {in: STATES}

      scope :granted, -> { where(state: "granted") }

      NO_LEAD = "no lead of it is a member here any more"
      private_constant :NO_LEAD

      class << self
        # @param publisher [Library, Integer]
        # @param library [Library, Integer] that follows
        def granted?(publisher, library) = granted.exists?(publisher:, library:)

        # Ends the rights of libraries whose leads can no longer see the publisher.
        #
        # @param libraries [Array<Library>] whose members or roles changed, on either side
        # @param by [Person] who changed them
        def end_without_lead(libraries, by:)
          granted.where(library: libraries).or(granted.where(publisher: libraries)).order(:id).each do |right|
            right.finish("ended", by:, reason: NO_LEAD) unless right.led?
          end
        end
      end

      def granted? = state == "granted"

      # @return [Boolean] whether a lead of the following library is a member of the publisher
      def led?
        leads = library.memberships.where(role: "lead").select(:person_id)
        publisher.people.here.where(id: leads).exists?
      end

      # Grants, refuses or ends it, and tells the leads of both libraries.
      #
      # @param state [String] of STATES but "asked"
      # @param reason [String]
      def finish(state, by:, reason: "")
        update!(state:, decided_by: by, decided_at: Time.current, reason: reason[0, 500])
        tell(by)
        Live.tell(what: "library", library: library_id)
        Live.tell(what: "library", library: publisher_id)
      end

      # @return [String] what a person of the following library is told when nothing more comes
      def why_not
        return "“#{publisher.name}” has not granted this yet." if state == "asked"
        word = (state == "refused") ? "refused to let" : "no longer lets"
        "“#{publisher.name}” #{word} “#{library.name}” follow its bundles#{": #{reason}" if reason.present?}."
      end

      private

      def tell(by)
        followers = (state == "granted") ? "“#{library.name}” may now follow bundles of “#{publisher.name}”" : why_not
        tell_leads(library, followers, by)
        tell_leads(publisher, followers, by)
      end

      def tell_leads(where, text, by)
        leads = where.people.here.where(memberships: {role: "lead"}).to_a
        Notice.tell(leads, library: where, kind: "release", text:, path: "/sharing/following", except: by)
      end
    end
  end
end
