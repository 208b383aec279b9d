# frozen_string_literal: true

module Fobrel
  module Finding
    # How many of the brushes that were found hang where.
    #
    #   Facets.new(search).to_h[:categories]   # => [{key: "3", count: 12}, …]
    class Facets
      Q = Core::Curation::Query
      private_constant :Q

      # @param search [Search]
      def initialize(search)
        @search = search
      end

      # What was counted, by process, and which were found: every page that is open asks for it after each change.
      Counted = Struct.new(:common, :lowest, :bits)
      KEPT = Core::LruCache.new(200)
      private_constant :Counted, :KEPT

      # @return [Hash] as openapi.yaml describes Facets
      def to_h
        key = @search.key
        counted = key ? KEPT.fetch(key) { count } : count
        states = Q::STATES.map { |state| [state, counted.common[:states][state] || own(state, counted)] }
        {**counted.common, states: listed(states)}
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

      COMMON = (Q::STATES - Search::OWN).freeze
      private_constant :COMMON

      # What is the same for everybody.
      def count
        ids = found
        # Columns know their tags, and so what has none.
        states = (COMMON - ["untagged"]).to_h { [_1, @search.state(_1)] }
        counts = @search.libraries.map { |library_id| Columns.count(library_id, ids, states) }
        counts = counts.inject { |one, other| one.merge(other) { |_, a, b| a.merge(b) { |_, m, n| m + n } } } || {}
        Counted.new(common(ids.size, counts).freeze, *bits(ids))
      end

      def common(total, counts)
        {
          total:,
          categories: column(counts["category_id"]),
          statuses: column(counts["status_id"]),
          authors: column(counts["author"]),
          licences: column(counts["licence"]),
          tags: column(counts["tags"]),
          traits: listed(self.class.summed(traits(counts["traits"]))),
          states: counts.fetch("states", {})
        }
      end

      # @return [Numo::Int64] ids
      def found
        sql = @search.presets.select("presets.id").to_sql
        Models::RawColumn.ids(Models::RawColumn.get("SELECT #{Models::RawColumn::PACKED} FROM (#{sql}) presets"))
      end

      # One bit for each id from the lowest on.
      def bits(ids)
        return [0, Numo::Bit.zeros(0)] if ids.size.zero?
        lowest = ids.min
        bits = Numo::Bit.zeros(ids.max - lowest + 1)
        bits[ids - lowest] = 1
        [lowest, bits]
      end

      # How many of those found are this person's.
      def own(state, counted)
        places = 0...counted.bits.size
        @search.own(state).pluck(:preset_id).count { |id|
          places.cover?(id - counted.lowest) && counted.bits[id - counted.lowest] == 1
        }
      end

      # One by one, out of lists of them.
      def traits(counts) = counts.to_h.flat_map { |words, count| words.split("\n").map { [_1, count] } }

      def listed(list) = list.map { |key, count| {key:, count:} }

      # The most frequent first.
      def column(counts)
        listed(counts.to_h.reject { |key, _| key.empty? }.sort_by { |key, count| [-count, key] })
      end
    end
  end
end
