# frozen_string_literal: true

module Fobrel
  module Finding
    # What stands under the search field while somebody types: a few brushes, how many there are, and searches that say
    # the same more exactly or narrow it.
    #
    #   SearchPreview.new(library:, person:, typed: "dry 40").to_h[:chips]
    #   # => [{kind: "category", value: "Dry marks", count: 26, line: "40; category: Dry marks"}, …]
    class SearchPreview
      STRIPS = 6
      # Of each kind, then of all; one row of them is shown.
      EACH = {"category" => 2, "size" => 1, "tag" => 3}.freeze
      CHIPS = 5

      # A search that is offered: its line is the whole search, its count the brushes that line finds.
      Chip = Struct.new(:kind, :value, :query) do
        def line = query.to_s
      end
      private_constant :Chip

      # @param library [Models::Library]
      # @param person [Models::Person] who types
      # @param typed [String] the line so far; a term may still be without its value
      def initialize(library:, person:, typed:)
        @library = library
        @person = person
        @typed = typed
      end

      # @return [Hash] as openapi.yaml describes SearchPreview
      def to_h
        lines = Known.new(@library).suggestions(@typed)
        @query = Core::Curation::Query.parse(@typed)
        return {**NOTHING, lines:} if @query.empty?
        @search = search(@query)
        {total: @search.total, tolerant: @search.tolerant?, presets: rows, chips:, lines:, problem: nil}
      rescue Core::Curation::Query::Unclear => e
        {**NOTHING, lines:, problem: e.message}
      end

      NOTHING = {total: 0, tolerant: false, presets: [], chips: [], problem: nil}.freeze
      private_constant :NOTHING

      private

      def search(query) = Search.new(library: @library, person: @person, query:)

      def rows = Views::Rows.by_id(@search.page(offset: 0, limit: STRIPS), @person)

      def chips
        all = [*@search.sought.flat_map { meanings(_1) }, *sizes_asked_for, *most_common]
        all = all.reject { |chip| chip.line == @query.to_s }.uniq { |chip| [chip.kind, chip.value] }.group_by(&:kind)
        chosen = EACH.flat_map { |kind, most| all.fetch(kind, []).first(most) }
        chosen.filter_map { |chip| with_count(chip) }.first(CHIPS)
      end

      # Where the whole line finds nothing, its parts by themselves may.
      def with_count(chip)
        alone = Core::Curation::Query.new([], chip.query.terms.select { _1.name == chip.kind })
        [chip.query, alone].each do |query|
          count = search(query).total
          return {kind: chip.kind, value: chip.value, count:, line: query.to_s} if count.positive?
        end
        nil
      end

      # What one word of the line may stand for: the categories and tags that are called so, a size.
      def meanings(word)
        rest = Core::Curation::Query.new(@query.words - [word], @query.terms)
        folded = Core::Curation::Query.fold(word)
        found = {"category" => Models::Category, "tag" => Models::Tag}.flat_map do |kind, model|
          next [] if @query.asks?(kind)
          model.where(id: @search.labels(model, folded)).order(:name).pluck(:name).map { |name|
            Chip.new(kind, name, rest.with(kind, [name]))
          }
        end
        size = "about #{word}"
        return found unless word.match?(/\A\d{1,4}(\.\d+)?\z/) && !@query.asks?("size")
        found << Chip.new("size", label(size), rest.with("size", [size]))
      end

      # The sizes in the line, each as a search of its own.
      def sizes_asked_for
        return [] if @query.words.empty? && @query.terms.size == 1
        @query.terms.select { _1.name == "size" && !_1.negated }.map do |term|
          Chip.new("size", label(term.values.first), Core::Curation::Query.new([], [term]))
        end
      end

      # The categories and tags that most of the brushes found have.
      def most_common
        facets = Facets.new(@search).to_h
        {
          "category" => [Models::Category, :categories],
          "tag" => [Models::Tag, :tags]
        }.flat_map do |kind, (model, counts)|
          next [] if @query.asks?(kind)
          ids = facets[counts].reject { _1[:count] == facets[:total] }.first(EACH[kind]).map { _1[:key].to_i }
          names = model.where(id: ids).pluck(:id, :name).to_h
          ids.filter_map { names[_1] }.map { |name| Chip.new(kind, name, @query.with(kind, [name])) }
        end
      end

      def label(size) = Core::Curation::Query::Range.label(size)
    end
  end
end
