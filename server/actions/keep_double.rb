# frozen_string_literal: true

module Fobrel
  module Actions
    # Keeps one of several brushes that paint alike. Sets and start plans that held another hold
    # the one that stays; the others go to the Attic.
    class KeepDouble < Action
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
        before = holders(go).map { |holder| [holder.class.name.demodulize, holder.id, replace(holder, go.map(&:id))] }
        Models::Preset.where(id: go.map(&:id)).update_all(hidden_at: Time.current, hidden_by_id: @person.id)
        write_down(@library, @person, "doubles", "“#{stays.name}” stays for #{brushes(go.size)} that paint alike", {"presets" => go.map(&:id), "before" => before})
      end

      private

      def holders(go)
        [Models::BrushSet.joins(:items).where(set_items: {preset_id: go}).distinct, Models::Seat.joins(:items).where(start_items: {preset_id: go}).distinct].flat_map(&:to_a)
      end

      def replace(holder, gone)
        was = holder.preset_ids_in_order
        holder.put_in_order(was.map { gone.include?(_1) ? @keep : _1 }.uniq)
        was
      end
    end
  end
end
