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
      # What the release that was taken last holds; `known` has what an earlier one held, too.
      has_many :brushes, -> { where(left_as: nil) }, class_name: "Fobrel::Models::FollowedBrush"
      has_many :known, class_name: "Fobrel::Models::FollowedBrush"

      # Those that are told of what is new.
      scope :current,
        lambda {
          joins(:bundle).where(stays: false).where(<<~SQL)
            EXISTS (SELECT 1 FROM follow_rights r WHERE r.state = 'granted'
              AND r.publisher_id = bundles.library_id AND r.library_id = follows.library_id)
          SQL
        }

      # @return [FollowRight, nil]
      def right = FollowRight.find_by(publisher: bundle.library_id, library: library_id)

      # Tells the leads of the library that follows.
      #
      # @param text [String]
      def tell_leads(text)
        leads = library.people.here.where(memberships: {role: "lead"}).to_a
        Notice.tell(leads, library:, kind: "release", text:, path: "/sharing/following?follow=#{id}")
      end

      # @return [Release, nil] the newest one that was not withdrawn
      def newest = bundle.releases.listed.where(withdrawn_at: nil).order(:id).last
    end
  end
end
