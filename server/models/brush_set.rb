# frozen_string_literal: true

module Fobrel
  module Models
    # A set: presets picked by hand, in order.
    class BrushSet < Record
      include Ordered

      belongs_to :library
      has_many :items, class_name: "Fobrel::Models::SetItem", dependent: :delete_all
      normalizes :name, with: Core::Names.method(:clean)
      validates :name, length: {in: 1..100}
      validate { Core::Curation::Query.automatic(query) if query }
      before_save {
        if query_changed? && !pointers_changed?
          self.pointers = query ? Finding::AutomaticSet.pointers(
            library,
            Core::Curation::Query.parse(query)
          ) : {}
        end
      }

      # @param ids [Array<Integer>] in order
      # @param sections [Hash{Integer => String}] of presets that stand in one; others keep theirs
      def put_in_order(ids, sections = section_by_preset)
        super(ids, ids.to_h { |id| [id, {section: sections[id].presence}] })
      end

      # @return [Hash{Integer => String}]
      def section_by_preset = items.where.not(section: nil).pluck(:preset_id, :section).to_h

      # What it holds now, if it fills itself.
      #
      # @param person [Person] who asks
      # @return [Search]
      def search(person, depth: 0)
        Finding::Search.new(library:, person:, query: Core::Curation::Query.parse(query), pointers:, depth:)
      end

      # @return [Boolean] whether it fills itself from a search
      def automatic? = !query.nil?
    end
  end
end
