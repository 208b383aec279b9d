# frozen_string_literal: true

module Fobrel
  module Actions
    # Keeps one of several brushes that paint alike. Sets, bundles and start plans that held another hold
    # the one that stays; the others go to the Attic.
    class KeepDouble < Action
      # What holds brushes in an order, by its name in the ledger.
      HOLDERS = {"BrushSet" => Models::BrushSet, "Seat" => Models::Seat, "Bundle" => Models::Bundle}.freeze

      # @param keep [Integer] stays
      # @param ids [Array<Integer>] go
      def initialize(library:, person:, keep:, ids:)
        @library = library
        @person = person
        @keep = keep
        @ids = ids - [keep]
      end

      # @return [Models::LedgerEntry]
      def call
        stays = presets_of(@library, [@keep]).first
        go = presets_of(@library, @ids)
        raise Core::Problem, "Choose at least one double to be replaced. Nothing was changed." if go.empty?
        places = holders(go).map { |holder| replace(holder, go.map(&:id)) }
        Models::Preset.where(id: go.map(&:id)).update_all(hidden_at: Time.current, hidden_by_id: @person.id)
        write_down(@library, @person, "doubles", "“#{stays.name}” stays for #{brushes(go.size)} that paint alike", {"presets" => go.map(&:id), "places" => places})
      end

      private

      def holders(go)
        HOLDERS.values.flat_map { |model| model.where(id: model.reflect_on_association(:items).klass.where(preset_id: go).select(model.reflect_on_association(:items).foreign_key)).to_a }
      end

      # What stays stands where the first of them stood, in its section.
      def replace(holder, gone)
        before = holder.preset_ids_in_order
        after = before.map { gone.include?(_1) ? @keep : _1 }.uniq
        sections = holder.respond_to?(:section_by_preset) ? holder.section_by_preset : nil
        first = before.find { gone.include?(_1) }
        if sections
          holder.put_in_order(after, sections.merge(before.include?(@keep) ? {} : {@keep => sections[first]}.compact))
        else
          holder.put_in_order(after)
        end
        {"kind" => holder.class.name.demodulize, "id" => holder.id, "before" => before, "after" => after, "sections" => sections}
      end
    end
  end
end
