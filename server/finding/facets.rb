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
        counts = Models::Record.connection.select_rows(sql, "Facets").group_by(&:first)
        of = ->(kind) { counts.fetch(kind, []).map { |_, key, count| [key, count] } }
        listed = ->(list) { list.map { |key, count| {key:, count:} } }
        columns = COLUMNS.to_h { |column|
          [column, listed[of[column].reject { |key, _| key.to_s.empty? }.sort_by { |key, count| [-count, key] }]]
        }
        {
          total: of["total"].sum(&:last),
          families: columns["family_id"],
          work_states: columns["label_id"],
          authors: columns["author"],
          licences: columns["licence"],
          tags: listed[of["tag"]],
          traits: listed[self.class.summed(of["trait"])],
          states: Q::STATES.zip(
            of["state"].sort_by { |key, _|
              key.to_i
            }.map(&:last)
          ).map { |key, count| {key:, count:} }
        }
      end

      # How many brushes have a trait, the plain one counted with each of its kinds.
      #
      # @param found [ActiveRecord::Relation<Models::Preset>]
      # @return [Array<Array(String, Integer)>] the most frequent first
      def self.traits(found)
        each = found.joins("CROSS JOIN unnest(presets.traits) AS trait").select("trait, count(*)").group("trait")
        summed(Models::Record.connection.select_rows(each.to_sql))
      end

      # @param counts [Array<Array(String, Integer)>] of traits as they are kept
      # @return [Array<Array(String, Integer)>] as .traits
      def self.summed(counts)
        counted = Hash.new(0)
        counts.each do |trait, count|
          Core::Curation::Traits.counted(trait).each { |name| counted[name] += count }
        end
        counted.sort_by { |name, count| [-count, name] }
      end

      private

      COLUMNS = %w[family_id label_id author licence].freeze
      private_constant :COLUMNS

      # What was found is looked for once, and counted by everything.
      def sql
        states = Q::STATES.map.with_index { |state, index| "(#{@search.state(state)}) AS s#{index}" }
        columns = COLUMNS.map { |column| "presets.#{column}" }
        found = @found.select("presets.id, presets.traits, #{[*columns, *states].join(", ")}").to_sql
        sums = Q::STATES.each_index.map { |index| "count(*) FILTER (WHERE s#{index}) AS s#{index}" }
        counted = Q::STATES.each_index.map { |index| "('#{index}', s#{index})" }
        <<~TEXT
          WITH found AS MATERIALIZED (#{found})
          SELECT 'total', NULL, count(*) FROM found
          #{COLUMNS.map { |one| "UNION ALL SELECT '#{one}', #{one}::text, count(*) FROM found GROUP BY #{one}" }.join("\n")}
          UNION ALL SELECT 'tag', g.tag_id::text, count(*) FROM found JOIN taggings g ON g.preset_id = found.id
            GROUP BY g.tag_id
          UNION ALL SELECT 'trait', trait, count(*) FROM found CROSS JOIN unnest(traits) AS trait GROUP BY trait
          UNION ALL SELECT 'state', key, count FROM (SELECT #{sums.join(", ")} FROM found) AS sums
            CROSS JOIN LATERAL (VALUES #{counted.join(", ")}) AS each(key, count)
        TEXT
      end
    end
  end
end
