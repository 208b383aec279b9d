# frozen_string_literal: true

module Fobrel
  module Actions
    # Keeps one of several brushes that paint alike. Sets, bundles and start-up plans that held another hold
    # the one that stays; the others are hidden.
    class KeepDuplicate < Deed
      # @param keep [Integer] stays
      # @param ids [Array<Integer>] go
      def initialize(library:, person:, keep:, ids:)
        @library = library
        @person = person
        @keep = keep
        @ids = ids - [keep]
      end

      # @return [Models::HistoryEntry]
      def call
        stays = presets_of(@library, [@keep]).first
        go = presets_of(@library, @ids)
        raise Core::Problem, "Choose at least one duplicate to be replaced. Nothing was changed." if go.empty?
        check_rights(@library, @person, go, plans: true)
        unless Finding::Duplicates.new(@library).alike?([stays, *go].map(&:fingerprint))
          raise Core::Problem,
            "These brushes do not paint alike, so none can stand for another. Nothing was changed. Choose from one " \
              "group of duplicates."
        end
        self.class.swap(changes, go.map(&:id), stays.id)
        gone = Models::Preset.where(id: go)
        changes.watch(gone, %w[hidden_at hidden_by_id]) { gone.hide(@person) }
        write_down(@library, @person, "duplicates", "“#{stays.name}” stays for #{brushes(go.size)} that paint alike")
      end

      # Puts one brush in the place of others, in every set, bundle and start-up plan that holds one
      # of them. It stands where the first of them stood, in its section.
      #
      # @param changes [History::Changes] of the deed that this is part of
      # @param gone [Array<Integer>]
      # @param stays [Integer]
      def self.swap(changes, gone, stays)
        Models::Ordered.holders.each_value do |model|
          items = model.reflect_on_association(:items)
          holding = model.where(id: items.klass.where(preset_id: gone).select(items.foreign_key))
          holding.order(:id).lock.each { |holder| changes.watch_order(holder) { swap_in(holder, gone, stays) } }
        end
      end

      def self.swap_in(holder, gone, stays)
        before = holder.preset_ids_in_order
        after = before.map { gone.include?(_1) ? stays : _1 }.uniq
        return holder.put_in_order(after) unless holder.respond_to?(:section_by_preset)
        sections = holder.section_by_preset
        place = before.include?(stays) ? {} : {stays => sections[before.find { gone.include?(_1) }]}.compact
        holder.put_in_order(after, sections.merge(place))
      end
      private_class_method :swap_in
    end
  end
end
