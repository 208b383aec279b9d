# frozen_string_literal: true

module Fobrel
  module Actions
    # Changes a bundle's words, its brushes and their order. Its releases stay as they are.
    class ChangeBundle < Deed
      WORDS = %w[name description author licence].freeze

      # @param words [Hash] of WORDS, those that change
      # @param ids [Array<Integer>, nil] all brushes in order; nil leaves them
      # @param before [Array<Integer>, nil] the order the person saw; nil does not check
      # @param sections [Hash{Integer => String}, nil]
      # @param cover [Integer, nil] the preset whose strip is the cover
      def initialize(bundle:, person:, words: {}, ids: nil, before: nil, sections: nil, cover: nil)
        @bundle = bundle
        @person = person
        @words = words.slice(*WORDS)
        @ids = ids
        @before = before
        @sections = sections
        @cover = cover
      end

      # @return [Models::HistoryEntry, nil] nil where nothing changes
      # @raise [Overtaken] when somebody changed its brushes meanwhile
      def call
        @bundle.lock!
        was = @bundle.preset_ids_in_order
        if @before && @before != was
          raise Overtaken,
            "Somebody changed “#{@bundle.name}” meanwhile. Nothing was overwritten. Look at it again and change once " \
              "more."
        end
        changes.watch(Models::Bundle.where(id: @bundle), WORDS) { @bundle.update!(@words) }
        order if @ids || @sections
        changes.watch(Models::Bundle.where(id: @bundle), %w[cover_id picture]) { cover }
        return if changes.empty?
        said = @ordered ? reordered(@bundle.name, was, @bundle.preset_ids_in_order) : words
        write_down(@bundle.library, @person, "bundle", said, about: [@bundle])
      end

      private

      def order
        ids = @ids ? presets_of(@bundle.library, @ids).map(&:id) : @bundle.preset_ids_in_order
        count = changes.list.size
        changes.watch_order(@bundle) { @bundle.put_in_order(ids, @sections || @bundle.section_by_preset) }
        @ordered = changes.list.size > count
      end

      def words
        columns = changes.list.flat_map { _1.after.to_h.keys }.uniq
        "The bundle “#{@bundle.name}” changed: #{columns.map { _1.delete_suffix("_id") }.join(", ")}"
      end

      # One of those that it holds.
      def cover
        held = @bundle.preset_ids_in_order
        @bundle.update!(cover_id: @cover, picture: nil) if @cover && held.include?(@cover)
        @bundle.update!(cover_id: nil) unless @bundle.cover_id.nil? || held.include?(@bundle.cover_id)
      end
    end
  end
end
