# frozen_string_literal: true

module Fobrel
  module Actions
    # Removes what brushes are gathered or sorted by, or an export template. The brushes stay; an undo makes
    # it again as it was.
    class Remove < Deed
      # @param record [Models::Record] a set, category, status, tag, bundle or export template
      def initialize(record:, person:)
        @record = record
        @person = person
      end

      # @return [Models::HistoryEntry]
      # @raise [Core::Problem] for a tag that is in use, and a bundle with releases
      def call
        @record.lock!
        refuse
        named = @record.class.in?(Finding::AutomaticSet::NAMED.values)
        filled = named ? Finding::AutomaticSet.filled_from(@record) : []
        detach
        changes.watch(@record.class.where(id: @record)) { @record.destroy! }
        write_down(@record.library, @person, "remove", said(filled))
      end

      private

      def said(filled)
        stay = "; its brushes stay" unless @record.is_a?(Models::ExportTemplate)
        sets = filled.map { |name| "“#{name}”" }.join(", ")
        lost = "; #{sets}, filled from it, no longer finds them by it" if filled.any?
        "The #{History::Table.of(@record.class).noun} “#{@record.name}” removed#{stay}#{lost}"
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

      # What hung on a category hangs one higher, or nowhere; what a set and a tag have of their own goes along.
      def detach
        case @record
        when Models::Category
          point(Models::Preset.where(category: @record), "category_id", @record.parent_id)
          point(@record.children, "parent_id", @record.parent_id)
        when Models::Status then point(Models::Preset.where(status: @record), "status_id", nil)
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
