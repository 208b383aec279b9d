# frozen_string_literal: true

module Fobrel
  module Finding
    # The tips and grains of a library's brushes, each once, with the brushes that have it.
    module Parts
      # Names of brushes that are told for each part.
      TOLD = 3

      # @param library [Models::Library]
      # @return [Array<Hash>] tip (as a document has it), brushes (names), count; most used first
      def self.tips(library)
        pick(library, :tip, "e.document #> '{mark,tip}'", "e.document #>> '{mark,tip,kind}' <> 'round'")
      end

      # @param library [Models::Library]
      # @return [Array<Hash>] asset ("sha256:…"), brushes, count
      def self.grains(library)
        pick(library, :asset, "e.document #> '{surface,asset}'", "e.document #>> '{surface,asset}' IS NOT NULL")
      end

      def self.pick(library, name, part, condition)
        rows = Models::Record.connection.select_rows(<<~SQL, "Parts", [library.id])
          SELECT #{part} AS part, (array_agg(p.name ORDER BY p.name))[1:#{TOLD}], count(*)
          FROM presets p JOIN editions e ON e.id = p.current_edition_id
          WHERE p.library_id = $1 AND p.hidden_at IS NULL AND #{condition}
          GROUP BY 1 ORDER BY 3 DESC, 2
        SQL
        names = PG::TextDecoder::Array.new
        rows.map do |json, list, count|
          {
            name => JSON.parse(json, quirks_mode: true),
            :brushes => list.is_a?(String) ? names.decode(list) : list,
            :count => count
          }
        end
      end
      private_class_method :pick
    end
  end
end
