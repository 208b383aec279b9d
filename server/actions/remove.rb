# frozen_string_literal: true

module Fobrel
  module Actions
    # Removes what brushes are gathered or sorted by, or a recipe. The brushes stay; an undo makes
    # it again as it was.
    class Remove < Deed
      # @param record [Models::Record] a set, family, work state, tag, bundle or recipe
      def initialize(record:, person:)
        @record = record
        @person = person
      end

      # @return [Models::LedgerEntry]
      # @raise [Core::Problem] for a tag that is in use, and a bundle with releases
      def call
        @record.lock!
        refuse
        filled = @record.class.in?(Finding::Standing::NAMED.values) ? Finding::Standing.filled_from(@record) : []
        let_go
        changes.watch(@record.class.where(id: @record)) { @record.destroy! }
        write_down(@record.library, @person, "remove", said(filled))
      end

      private

      def said(filled)
        stay = "; its brushes stay" unless @record.is_a?(Models::Recipe)
        sets = filled.map { |name| "“#{name}”" }.join(", ")
        lost = "; #{sets}, filled from it, no longer finds them by it" if filled.any?
        "The #{Ledger::Table.of(@record.class).noun} “#{@record.name}” removed#{stay}#{lost}"
      end

      def refuse
        case @record
        when Models::Tag
          count = @record.taggings.count
          if count.positive?
            raise Core::Problem,
              "“#{@record.name}” is used by #{brushes(count)}. Nothing was changed. Remove it there first, or " \
                "merge it into another."
          end
        when Models::Bundle
          if @record.releases.any?
            raise Core::Problem,
              "“#{@record.name}” has releases, which are kept permanently. Nothing was deleted. Withdraw them instead."
          end
        end
      end

      # What hung on a family hangs one higher, or nowhere; what a set and a tag have of their own goes along.
      def let_go
        case @record
        when Models::Family
          point(Models::Preset.where(family: @record), "family_id", @record.parent_id)
          point(@record.children, "parent_id", @record.parent_id)
        when Models::WorkState then point(Models::Preset.where(work_state: @record), "label_id", nil)
        when Models::BrushSet then changes.watch(@record.items) { @record.items.delete_all }
        when Models::Tag then changes.watch(@record.synonyms) { @record.synonyms.delete_all }
        end
      end

      def point(records, column, id)
        there = records.klass.where(id: records.ids)
        changes.watch(there, [column]) { there.update_all(column => id) }
      end
    end
  end
end
