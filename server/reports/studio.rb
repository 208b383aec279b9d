# frozen_string_literal: true

module Fobrel
  module Reports
    # The whole installation: people, libraries and how large they are.
    class Studio
      # @return [Hash] as openapi.yaml describes Studio
      def to_h = {people:, libraries:, size: Models::Cleaning.size, backups: Views::Studio.backups}

      private

      def people
        seen = Models::SignIn.group(:person_id).maximum(:seen_at)
        names = Models::Membership.joins(:library).order("libraries.name").pluck(:person_id, "libraries.name", :role)
          .group_by(&:first)
        Models::Person.order(:name).map { |person|
          {
            **person.slice(:id, :name, :login, :owner),
            closed: !person.closed_at.nil?,
            seen_at: seen[person.id]&.iso8601,
            libraries: names.fetch(person.id, []).map { |_, name, role| "#{name} (#{role})" }
          }
        }
      end

      def libraries
        brushes = Models::Preset.shown.group(:library_id).count
        members = Models::Membership.group(:library_id).count
        leads = Models::Membership.joins(:person).merge(Models::Person.here)
          .where(role: "lead").group(:library_id).count
        saved = Models::Export.where(kind: "backup").group(:library_id).maximum(:created_at)
        Models::Library.order(:name).map { |library|
          {
            **library.slice(:id, :name, :kind),
            archived: !library.archived_at.nil?,
            brushes: brushes.fetch(library.id, 0),
            people: members.fetch(library.id, 0),
            led: leads.key?(library.id),
            saved_at: saved[library.id]&.iso8601
          }
        }
      end
    end
  end
end
