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
        check_rights(@library, @person, go, plans: true)
        unless Models::Doubles.new(@library).alike?([stays, *go].map(&:fingerprint))
          raise Core::Problem,
            "These brushes do not paint alike, so none can stand for another. Nothing was changed. Choose from one " \
              "group of doubles."
        end
        places = self.class.swap(go.map(&:id), stays.id)
        Models::Preset.where(id: go.map(&:id)).update_all(hidden_at: Time.current, hidden_by_id: @person.id)
        write_down(
          @library,
          @person,
          "doubles",
          "“#{stays.name}” stays for #{brushes(go.size)} that paint alike",
          {"presets" => go.map(&:id), "places" => places}
        )
      end

      # Puts one brush in the place of others, in every set, bundle and start plan that holds one
      # of them. It stands where the first of them stood, in its section.
      #
      # @param gone [Array<Integer>]
      # @param stays [Integer]
      # @return [Array<Hash>] for the undo
      def self.swap(gone, stays)
        HOLDERS.flat_map do |kind, model|
          items = model.reflect_on_association(:items)
          model.where(id: items.klass.where(preset_id: gone).select(items.foreign_key)).map { |holder|
            swap_in(holder, kind, gone, stays)
          }
        end
      end

      def self.swap_in(holder, kind, gone, stays)
        before = holder.preset_ids_in_order
        after = before.map { gone.include?(_1) ? stays : _1 }.uniq
        sections = holder.respond_to?(:section_by_preset) ? holder.section_by_preset : nil
        if sections
          place = before.include?(stays) ? {} : {stays => sections[before.find { gone.include?(_1) }]}.compact
          holder.put_in_order(after, sections.merge(place))
        else
          holder.put_in_order(after)
        end
        {"kind" => kind, "id" => holder.id, "before" => before, "after" => after, "sections" => sections}
      end
      private_class_method :swap_in
    end
  end
end
