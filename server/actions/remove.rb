# frozen_string_literal: true

module Fobrel
  module Actions
    # Removes what brushes are gathered or sorted by, or a recipe. The brushes stay; an undo makes
    # it again as it was.
    class Remove < Action
      # What can be removed, and what it is called.
      KINDS = {
        "Set" => [Models::BrushSet, "set"],
        "Family" => [Models::Family, "family"],
        "Label" => [Models::Label, "work state"],
        "Tag" => [Models::Tag, "tag"],
        "Bundle" => [Models::Bundle, "bundle"],
        "Recipe" => [Models::Recipe, "recipe"]
      }.freeze

      # @param record [Models::Record] of one of KINDS
      def initialize(record:, person:)
        @record = record
        @person = person
        @kind, (_, @called) = KINDS.find { |_, (model, _)| record.is_a?(model) }
      end

      # @return [Models::LedgerEntry]
      # @raise [Core::Problem] for a tag that is in use, and a bundle with releases
      def call
        @record.lock!
        refuse
        undo = {"what" => @kind, "record" => @record.attributes}.merge(held)
        filled = @record.class.in?(Models::Standing::NAMED.values) ? Models::Standing.filled_from(@record) : []
        let_go
        @record.destroy!
        write_down(
          @record.library,
          @person,
          "remove",
          "The #{@called} “#{@record.name}” removed#{"; its brushes stay" unless @kind == "Recipe"}#{if filled.any?
                                                                                                       "; #{filled.map {
                                                                                                         "“#{_1}”"
                                                                                                       }.join(", ")}," \
" filled from it, no longer finds them by it"
                                                                                                     end}",
          undo
        )
      end

      private

      def refuse
        case @record
        when Models::Tag
          count = @record.taggings.count
          if count.positive?
            raise Core::Problem,
              "“#{@record.name}” hangs on #{brushes(count)}. Nothing was changed. Take it off them first, or merge " \
                "it into another."
          end
        when Models::Bundle
          if @record.releases.any?
            raise Core::Problem,
              "“#{@record.name}” has releases, which are kept for ever. Nothing was deleted. Withdraw them instead."
          end
        end
      end

      def held
        case @record
        when Models::BrushSet, Models::Bundle then {
          "ids" => @record.preset_ids_in_order,
          "sections" => @record.section_by_preset
        }
        when Models::Family then {
          "presets" => Models::Preset.where(family: @record).ids,
          "below" => @record.children.ids
        }
        when Models::Label then {"presets" => Models::Preset.where(label: @record).ids}
        when Models::Tag then {"synonyms" => @record.synonyms.pluck(:name)}
        else {}
        end
      end

      # What hung on a family hangs one higher, or nowhere.
      def let_go
        case @record
        when Models::Family
          Models::Preset.where(family: @record).update_all(family_id: @record.parent_id)
          @record.children.update_all(parent_id: @record.parent_id)
        when Models::Label then Models::Preset.where(label: @record).update_all(label_id: nil)
        end
      end
    end
  end
end
