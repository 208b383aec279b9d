# frozen_string_literal: true

module Fobrel
  module Finding
    # What a library's search terms can be given, for suggestions while somebody types.
    #
    #   Known.new(library).suggestions("tag: ni")   # => ["tag: night"]
    class Known
      SIZES = ["under 20", "under 60", "over 100", "20 to 60"].freeze

      # @param library [Models::Library]
      def initialize(library)
        @library = library
      end

      # @param typing [String]
      # @return [Array<String>] whole lines
      def suggestions(typing) = Core::Curation::Suggestions.of(typing, to_h)

      # @return [Hash{String => Array<String>}] values by term, in the order of Core::Curation::Query::TERMS
      def to_h
        sets = names(@library.brush_sets)
        {
          "tag" => tags,
          "category" => names(@library.categories),
          "status" => names(@library.statuses),
          "trait" => Facets.traits(shown).map(&:first),
          "set" => sets,
          "library" => [],
          "size" => SIZES,
          "author" => most_used("author"),
          "changed" => ["today", "this week", "this month", "since #{Date.current.beginning_of_month.iso8601}"],
          "used in" => ["nothing", *sets, *names(@library.desks)],
          "licence" => ["none", *most_used("licence")],
          "is" => Core::Curation::Query::STATES
        }
      end

      private

      def shown = @library.presets.shown

      def names(things) = things.order(:name).pluck(:name)

      # A tag is found by its synonyms too.
      def tags = @library.tags.includes(:synonyms).order(:name).flat_map { |tag| [tag.name, *tag.synonyms.map(&:name)] }

      def most_used(column)
        shown.where.not(column => "").group(column).order(Arel.sql("count(*) DESC"), column).pluck(column)
      end
    end
  end
end
