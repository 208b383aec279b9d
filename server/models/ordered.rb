# frozen_string_literal: true

module Fobrel
  module Models
    # For what holds presets in an order made by hand: sets, bundles and start-up plans.
    module Ordered
      # @return [Hash{String => Class}] what holds presets so, by the table of its places
      def self.holders
        [BrushSet, Bundle, Desk].to_h { |model| [model.reflect_on_association(:items).klass.table_name, model] }
      end

      # @param ids [Array<Integer>] presets of the same library, in the order wanted
      # @param more [Hash{Integer => Hash}] further columns of a preset's place
      def put_in_order(ids, more = {})
        items.delete_all
        if ids.any?
          items.insert_all!(
            ids.each_with_index.map { |preset_id, position|
              {preset_id:, position:}.merge(more.fetch(preset_id, {}))
            }
          )
        end
        touch
      end

      # Numbers the places anew where some went and others stayed.
      def close_gaps
        places = items.order(:position).pluck(:position)
        put_in_order(preset_ids_in_order) if places != [*0...places.size]
      end

      # @return [Array<Integer>] preset ids in order
      def preset_ids_in_order = items.order(:position).pluck(:preset_id)
    end
  end
end
