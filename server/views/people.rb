# frozen_string_literal: true

module Fobrel
  module Views
    # People, where they are signed in, and the libraries they are in.
    module People
      class << self
        # @param membership [Models::Membership]
        # @return [Hash] as openapi.yaml describes Library
        def library(membership)
          library = membership.library
          {
            **library.slice(:id, :name, :kind),
            role: membership.role,
            canvas: library.canvas,
            archived: !library.archived_at.nil?,
            own: library.person_id == membership.person_id
          }
        end

        # @param drafts [Integer] brushes of the library that they have drafts of
        # @return [Hash] as openapi.yaml describes Member
        def member(membership, drafts)
          person = membership.person
          {
            **person.slice(:id, :name, :login),
            role: membership.role,
            drafts:,
            seen_at: person.sign_ins.maximum(:seen_at)&.iso8601,
            closed: !person.closed_at.nil?
          }
        end

        # @return [Hash] as openapi.yaml describes Invitation
        def invitation(invitation)
          {
            **invitation.slice(:id, :role, :name),
            by: invitation.person.name,
            at: invitation.created_at.iso8601,
            ends_at: invitation.ends_at.iso8601
          }
        end

        # @param here [Models::SignIn] the one that asks
        # @return [Hash] as openapi.yaml describes SignIn
        def sign_in(sign_in, here)
          {
            id: sign_in.id,
            from: "#{browser(sign_in.agent)}, #{sign_in.address}",
            at: sign_in.created_at.iso8601,
            seen_at: sign_in.seen_at.iso8601,
            here: sign_in.id == here&.id
          }
        end

        # A library's own page: what it is for, what is in it, what is new.
        #
        # @return [Hash] as openapi.yaml describes LibraryPage
        def page(library)
          shown = library.presets.shown
          {
            **library.slice(:id, :name, :kind, :description),
            archived: !library.archived_at.nil?,
            leads: library.people.here.where(memberships: {role: "lead"}).order(:name).pluck(:name),
            brushes: shown.count,
            categories: categories(library, shown),
            releases: releases(library),
            fresh: Models::Preset.uncached { Rows.of(shown.order(created_at: :desc, id: :desc).limit(6), NOBODY) }
          }
        end

        # Who has no drafts and no favourites.
        NOBODY = Struct.new(:id).new(0)
        private_constant :NOBODY

        private

        # What a browser says of itself, as far as a person wants to know.
        def browser(agent)
          name = {"Firefox" => /Firefox/, "Edge" => /Edg/, "Chromium" => /Chrom/, "Safari" => /Safari/}
            .find { |_, sign| agent.match?(sign) }&.first
          system = {"Windows" => /Windows/, "macOS" => /Mac OS/, "Android" => /Android/, "Linux" => /Linux/}
            .find { |_, sign| agent.match?(sign) }&.first
          [name || "A program", system].compact.join(" on ")
        end

        def categories(library, shown)
          counts = shown.group(:category_id).count
          named = library.categories.order(:position, :name).filter_map { |category|
            {name: category.name, count: counts[category.id]} if counts[category.id]
          }
          counts[nil] ? named + [{name: "no category", count: counts[nil]}] : named
        end

        def releases(library)
          Models::Release.listed.joins(:bundle).includes(:bundle).where(bundles: {library_id: library.id})
            .order(created_at: :desc).limit(5).map { |release|
              {
                bundle: release.bundle.name,
                bundle_id: release.bundle_id,
                number: release.number,
                notes: release.notes.to_s,
                at: release.created_at.iso8601
              }
            }
        end
      end
    end
  end
end
