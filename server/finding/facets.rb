# frozen_string_literal: true

module Fobrel
  module Finding
    # How many of the brushes that were found hang where.
    #
    #   Facets.new(search).to_h[:families]   # => [{key: "3", count: 12}, …]
    class Facets
      Q = Core::Curation::Query
      private_constant :Q

      # @param search [Search]
      def initialize(search)
        @search = search
        @found = search.presets
      end

      # @return [Hash] as openapi.yaml describes Facets
      def to_h
        columns = column_counts
        {
          total: @found.count,
          families: columns["family_id"],
          work_states: columns["label_id"],
          authors: columns["author"],
          licences: columns["licence"],
          tags:,
          traits: self.class.traits(@found).map { |key, count| {key:, count:} },
          states:
        }
      end

      # How many brushes have a trait, the plain one counted with each of its kinds.
      #
      # @param found [ActiveRecord::Relation<Models::Preset>]
      # @return [Array<Array(String, Integer)>] the most frequent first
      def self.traits(found)
        each = found.joins("CROSS JOIN unnest(presets.traits) AS trait").select("trait, count(*)").group("trait")
        counted = Hash.new(0)
        Models::Record.connection.select_rows(each.to_sql).each do |trait, count|
          Core::Curation::Traits.counted(trait).each { |name| counted[name] += count }
        end
        counted.sort_by { |name, count| [-count, name] }
      end

      private

      # One pass over what was found counts all four columns.
      def column_counts
        columns = %w[family_id label_id author licence]
        picked = columns.map { |column| "presets.#{column}, grouping(presets.#{column}) AS no_#{column}" }.join(", ")
        sets = columns.map { |column| "(presets.#{column})" }.join(", ")
        counts = @found.select("#{picked}, count(*) AS count").group(Arel.sql("GROUPING SETS (#{sets})"))
        rows = Models::Record.connection.select_all(counts.to_sql).to_a
        columns.to_h do |column|
          own = rows.select { |row| row["no_#{column}"].zero? && row[column].to_s != "" }
          listed = own.map { |row| {key: row[column].to_s, count: row["count"]} }
          [column, listed.sort_by { |one| [-one[:count], one[:key]] }]
        end
      end

      def tags
        counts = Models::Tagging.where(preset_id: @found.select(:id)).group(:tag_id).count
        counts.map { |key, count| {key: key.to_s, count:} }
      end

      def states
        counts = Q::STATES.map.with_index { |state, index|
          "count(*) FILTER (WHERE #{@search.state(state)}) AS s#{index}"
        }
        row = Models::Record.connection.select_one(@found.select(counts.join(", ")).to_sql)
        Q::STATES.map.with_index { |state, index| {key: state, count: row["s#{index}"]} }
      end
    end
  end
end
