# frozen_string_literal: true

module Fobrel
  module Finding
    # What facets count of a library's brushes, as columns of numbers in memory: a place for each id from the lowest to
    # the highest. A process reads them once; of what was changed since, it reads the brushes that the database noted
    # (Models::BrushChange). Counting what was found is then a few passes over numbers.
    #
    #   Columns.count(library.id, found)   # => {"category_id" => {"3" => 12}, "tags" => {"9" => 4}, …}
    class Columns
      # What a brush has one of, by name: read together where few go with one another.
      ONE = [
        {"category_id" => "presets.category_id", "status_id" => "presets.status_id"},
        {"author" => "presets.author", "licence" => "presets.licence"},
        {"traits" => "presets.trait_words"}
      ].freeze
      # Places of all libraries together whose columns a process keeps: some 40 bytes each.
      KEPT = Core::LruCache.new(1_000_000, &:weight)
      # Places for brushes that will come.
      SPARE = 1000
      private_constant :ONE, :KEPT, :SPARE

      # @param library_id [Integer]
      # @param found [Numo::Int64] ids
      # @param states [Hash{String => String}] conditions in SQL on a row of presets, by what they are called
      # @return [Hash{String => Hash{String => Integer}}] how many of those found have which category_id, status_id,
      #   author, licence, traits (as trait_words writes all of a brush) and tags; and the states, "untagged" too
      def self.count(library_id, found, states)
        return new(library_id, states).count(found) if Models::BrushChange.own?(library_id)
        KEPT.fetch(library_id) { new(library_id, states) }.count(found, fresh: true)
      end

      # @return [Integer] places when they were read first
      attr_reader :weight

      # @param library_id [Integer]
      # @param states [Hash{String => String}]
      def initialize(library_id, states)
        @library_id = library_id
        @together = [*ONE, states]
        @states = states.keys
        @lock = Mutex.new
        read
        @weight = @size
      end

      # @param found [Numo::Int64] ids
      # @param fresh [Boolean] whether to ask for what was changed since they were read
      # @return [Hash] as .count
      def count(found, fresh: false)
        @lock.synchronize do
          refresh if fresh
          places = found - @low
          places = at(places, ((places >= 0) & (places < @size)).where)
          ones = @codes.to_h { |name, codes| [name, sums(@values[name], at(codes, places))] }
          states = @states.to_h { |name| [name, ones.delete(name)["true"] || 0] }
          mask = Numo::UInt8.zeros(@size)
          mask[places] = 1 if places.size.positive?
          tags = at(mask, @tagged).eq(1).where
          mask[@tagged] = 0 if @tagged.size.positive?
          {**ones, "tags" => sums(@values["tags"], at(@tags, tags)), "states" => {**states, "untagged" => mask.sum}}
        end
      end

      private

      # Numo takes nothing out of an empty array, and by no empty list.
      def at(array, places) = places.size.zero? ? array.class.zeros(0) : array[places]

      def sums(values, codes)
        return {} if codes.size.zero?
        counts = codes.bincount(minlength: values.size + 1)
        values.filter_map { |value, code| [value, counts[code]] if counts[code].positive? }.to_h
      end

      # --- reading -------------------------------------------------------------------------------------

      # All of them.
      def read
        @since = nil
        since = Models::BrushChange.since(@library_id, nil).mark
        @low, high = Models::Preset.where(library_id: @library_id).pick(Arel.sql("min(id)"), Arel.sql("max(id)"))
        @low ||= 0
        @size = (high || 0) - @low + 1 + SPARE
        @values = Hash.new { |all, name| all[name] = {} }
        @codes = @together.flat_map(&:keys).to_h { |name| [name, Numo::Int32.zeros(@size)] }
        @tagged, @tags = Numo::Int32.zeros(0), Numo::Int32.zeros(0)
        take(nil)
        @since = since
      end

      # What was changed since. Read again is read right, so what was begun and failed is taken up the next time.
      def refresh
        changes = @since && Models::BrushChange.since(@library_id, @since)
        ids = changes&.preset_ids
        return read if ids.nil? || ids.any? { _1 < @low || _1 >= @low + @size }
        if ids.any?
          forget(ids)
          take(ids)
        end
        @since = changes.mark
      end

      def forget(ids)
        places = Numo::Int32.cast(ids) - @low
        @codes.each_value { _1[places] = 0 }
        gone = Numo::UInt8.zeros(@size)
        gone[places] = 1
        stay = at(gone, @tagged).eq(0).where
        @tagged, @tags = at(@tagged, stay), at(@tags, stay)
      end

      def take(ids)
        mine = Models::Preset.where(library_id: @library_id).where(ids && {id: ids})
        @together.each do |columns|
          names = columns.keys
          each_kind(mine.shown, columns.values) do |values, places|
            names.zip(values) { |name, value| @codes[name][places] = code(name, value) }
          end
        end
        lists = [[@tagged, @tags]]
        each_kind(mine.joins(:taggings), ["taggings.tag_id"]) do |(tag), places|
          lists << [places, Numo::Int32.new(places.size).fill(code("tags", tag))]
        end
        @tagged, @tags = lists.transpose.map { |parts| Numo::Int32.concatenate(parts) }
      end

      # The database writes the ids of a kind one behind the other: rows would take ten times as long to read.
      #
      # @yieldparam values [Array<String, nil>] that brushes have together
      # @yieldparam places [Numo::Int32] of those brushes
      def each_kind(presets, columns)
        kinds = presets.select(
          *columns.each_with_index.map { |column, index| "#{column} AS c#{index}" },
          "#{Models::RawColumn::PACKED} AS ids"
        ).group(*columns).to_sql
        values = columns.each_index.map { "c#{_1}::text" }
        Models::RawColumn.rows("SELECT #{values.join(", ")}, ids FROM (#{kinds}) kinds").each do |*texts, ids|
          yield texts.map { _1&.force_encoding("UTF-8") }, Numo::Int32.cast(Models::RawColumn.ids(ids) - @low)
        end
      end

      # 0 is for what a brush has none of.
      def code(name, value) = value ? (@values[name][value] ||= @values[name].size + 1) : 0
    end
  end
end
