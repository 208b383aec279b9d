# frozen_string_literal: true

module Fobrel
  module Views
    # What a library follows, and what a release would change in it.
    module Follows
      class << self
        # @param follow [Models::Follow]
        # @return [Hash] as openapi.yaml describes Follow
        def follow(follow)
          newest = follow.newest
          at = follow.release
          right = follow.right
          granted = right&.granted? || false
          {
            id: follow.id,
            bundle: follow.bundle.name,
            library: follow.bundle.library.name,
            stays: follow.stays,
            at: at && release(at),
            newest: newest && release(newest),
            earlier: (follow.earlier && follow.earlier != at) ? release(follow.earlier) : nil,
            behind: granted && !newest.nil? && newest.id != at&.id && !follow.stays,
            ended: granted ? nil : (right&.why_not || "Its right to follow has ended."),
            withdrawn: at&.withdrawn_at ? at.withdrawn_reason.to_s : nil,
            brushes: follow.brushes.count
          }
        end

        # @param release [Models::Release]
        # @return [Hash] as openapi.yaml describes Released
        def release(release)
          {id: release.id, number: release.number, notes: release.notes.to_s, at: release.created_at.iso8601}
        end

        # @param right [Models::FollowRight]
        # @return [Hash] as openapi.yaml describes FollowRight
        def right(right)
          held = right.library.follows.joins(:bundle).where(bundles: {library_id: right.publisher_id})
          {
            id: right.id,
            library: right.library.name,
            state: right.state,
            reason: right.reason,
            asked_by: right.asked_by&.name,
            decided_by: right.decided_by&.name,
            decided_at: right.decided_at&.iso8601,
            bundles: held.order("bundles.name").pluck("bundles.name")
          }
        end

        # @param row [Actions::TakeRelease::Row]
        # @return [Hash] as openapi.yaml describes Followed
        def row(row)
          between = Core::Preset::Changes.method(:between)
          {
            id: row.id,
            name: row.name,
            kind: row.kind,
            why: row.why,
            hidden: row.hidden,
            preset: row.preset&.id,
            before: row.mine&.fingerprint,
            theirs: (row.base && row.theirs) ? between.call(row.base, row.theirs).words : [],
            mine: (row.base && row.mine) ? between.call(row.base, row.mine).words : [],
            conflicts: (row.merge&.conflicts || []).map { |one| {key: one.key, title: one.title, words: one.words} }
          }
        end
      end
    end
  end
end
