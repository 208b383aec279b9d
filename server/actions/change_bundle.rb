# frozen_string_literal: true

module Fobrel
  module Actions
    # Changes a bundle's words, its brushes and their order. Its releases stay as they are.
    class ChangeBundle < Action
      WORDS = %w[name description author licence].freeze

      # @param words [Hash] of WORDS, those that change
      # @param ids [Array<Integer>, nil] all brushes in order; nil leaves them
      # @param before [Array<Integer>, nil] the order the person saw; nil does not check
      # @param sections [Hash{Integer => String}, nil]
      # @param cover [Integer, nil] the preset whose strip is the cover
      def initialize(bundle:, words: {}, ids: nil, before: nil, sections: nil, cover: nil)
        @bundle = bundle
        @words = words.slice(*WORDS)
        @ids = ids
        @before = before
        @sections = sections
        @cover = cover
      end

      # @return [Models::Bundle]
      # @raise [Overtaken] when somebody changed its brushes meanwhile
      def call
        @bundle.lock!
        was = @bundle.preset_ids_in_order
        raise Overtaken, "Somebody changed “#{@bundle.name}” meanwhile. Nothing was overwritten. Look at it again and change once more." if @before && @before != was
        @bundle.update!(@words)
        @bundle.put_in_order(@ids ? presets_of(@bundle.library, @ids).map(&:id) : was, @sections || @bundle.section_by_preset) if @ids || @sections
        @bundle.update!(cover_id: @cover) if @cover && @bundle.preset_ids_in_order.include?(@cover)
        @bundle.update!(cover_id: nil) unless @bundle.cover_id.nil? || @bundle.preset_ids_in_order.include?(@bundle.cover_id)
        @bundle
      end
    end
  end
end
