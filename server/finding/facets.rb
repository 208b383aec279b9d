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

      # What was counted, by process: every page that is open asks for it after each change.
      KEPT = Core::LruCache.new(200)
      # What each person has of their own.
      OWN = %w[draft favourite recent].freeze
      private_constant :KEPT, :OWN

      # @return [Hash] as openapi.yaml describes Facets
      def to_h
        key = @search.key
        found = key ? KEPT.fetch(key) { common } : common
        own = OWN.to_h { |state| [state, @found.where(@search.state(state)).count] }
        states = Q::STATES.map { |state| [state, own[state] || found[:states][state]] }
        {**found, states: listed(states)}
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
      COMMON = (Q::STATES - OWN).freeze
      private_constant :COLUMNS, :COMMON

      # What is the same for everybody.
      def common
        counts = Models::Record.connection.exec_query(sql, "Facets").cast_values.group_by(&:first)
        rows = counts.fetch("rows", []).map { |_, _, count, values, states| [count, values, states] }
        columns = COLUMNS.each_with_index.to_h { |name, index| [name, column(rows, index)] }
        {
          total: rows.sum(&:first),
          families: columns["family_id"],
          work_states: columns["label_id"],
          authors: columns["author"],
          licences: columns["licence"],
          tags: listed(pairs(counts, "tag")),
          traits: listed(self.class.summed(traits(counts))),
          states: COMMON.each_with_index.to_h { |state, index| [state, rows.sum { _3[index] }] }
        }.freeze
      end

      # One by one, out of lists of them.
      def traits(counts) = pairs(counts, "traits").flat_map { |words, count| words.split("\n").map { [_1, count] } }

      def pairs(counts, kind) = counts.fetch(kind, []).map { |_, key, count| [key, count] }

      def listed(list) = list.map { |key, count| {key:, count:} }

      # The most frequent first.
      def column(rows, index)
        sums = rows.each_with_object(Hash.new(0)) { |(count, values), all| all[values[index]] += count }
        listed(sums.reject { |key, _| key.to_s.empty? }.sort_by { |key, count| [-count, key] })
      end

      # What was found is looked for once. Rows that are alike are counted together first: of traits there are a few
      # hundred kinds of lists, whatever the number of brushes.
      def sql
        states = COMMON.map.with_index { |state, index| "(#{@search.state(state)}) AS s#{index}" }
        found = @found.select(["presets.id", "presets.trait_words", *COLUMNS.map { "presets.#{_1}" }, *states]).to_sql
        sums = COMMON.each_index.map { |index| "count(*) FILTER (WHERE s#{index})" }
        <<~TEXT
          WITH found AS MATERIALIZED (#{found})
          SELECT 'rows', NULL, count(*), ARRAY[#{COLUMNS.map { "#{_1}::text" }.join(", ")}], ARRAY[#{sums.join(", ")}]
            FROM found GROUP BY #{COLUMNS.join(", ")}
          UNION ALL SELECT 'tag', g.tag_id::text, count(*), NULL, NULL
            FROM found JOIN taggings g ON g.preset_id = found.id GROUP BY g.tag_id
          UNION ALL SELECT 'traits', trait_words, count(*), NULL, NULL FROM found GROUP BY trait_words
        TEXT
      end
    end
  end
end
