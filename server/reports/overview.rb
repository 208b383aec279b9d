# frozen_string_literal: true

module Fobrel
  module Reports
    # What a library holds, counted: by category, size, trait, author, month; what is never used,
    # what lacks tags, licence or notes.
    class Overview
      SIZES = [10, 20, 40, 80, 160, 320].freeze

      def initialize(library, person)
        @library = library
        @person = person
      end

      # @return [Hash] lists of {name, count}
      def to_h
        {total: shown.count, categories:, sizes:, traits:, authors:, months:, gaps:}
      end

      private

      def shown = @library.presets.shown

      def categories
        names = Models::Category.paths(@library).transform_values { _1.join(" / ") }
        listed(shown.group(:category_id).count.transform_keys { names.fetch(_1, "no category") })
      end

      def sizes
        steps = [0, *SIZES, 1e9].each_cons(2).map { |from, to|
          [
            if from.zero?
              "to #{to} px"
            else
              (SIZES.include?(to) ? "#{from}–#{to} px" : "over #{from} px")
            end,
            from,
            to
          ]
        }
        steps.map { |name, from, to| {name:, count: shown.where("size > ? AND size <= ?", from, to).count} }
      end

      def traits = Finding::Facets.traits(shown).first(14).map { |name, count| {name:, count:} }

      def authors = listed(shown.group(:author).count.transform_keys { _1.presence || "unknown" })

      def months
        counts = shown.group("to_char(presets.created_at, 'YYYY-MM')").count
        counts.sort.last(24).map { |name, count| {name:, count:} }
      end

      # Each gap with the search that shows it.
      def gaps
        {
          "In no set and no start-up plan" => "used in: nothing",
          "Without a tag" => "is: untagged",
          "Without a licence" => "licence: none",
          "Without notes" => "is: without notes",
          "In no category" => "category: none",
          "Changed since baseline" => "is: changed"
        }.map do |name, query|
          {
            name:,
            query:,
            count: Finding::Search.new(
              library: @library,
              person: @person,
              query: Core::Curation::Query.parse(query)
            ).presets.count
          }
        end
      end

      def listed(counts) = counts.sort_by { |name, count| [-count, name] }.map { |name, count| {name:, count:} }
    end
  end
end
