# frozen_string_literal: true

module Fobrel
  module Models
    # A library follows a bundle of another: it has the brushes of one of its releases, with its own changes on them.
    class Follow < Record
      belongs_to :library
      belongs_to :bundle
      belongs_to :release, optional: true
      belongs_to :earlier, class_name: "Fobrel::Models::Release", optional: true
      belongs_to :person
      has_many :brushes, class_name: "Fobrel::Models::FollowedBrush"

      # Tells the leads of the library that follows.
      #
      # @param text [String]
      def tell_leads(text)
        leads = library.people.here.where(memberships: {role: "lead"}).to_a
        Notice.tell(leads, library:, kind: "release", text:, path: "/following?follow=#{id}")
      end

      # @return [Release, nil] the newest one that was not withdrawn
      def newest = bundle.releases.listed.where(withdrawn_at: nil).order(:id).last
    end
  end
end
