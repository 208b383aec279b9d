# frozen_string_literal: true

module Fobrel
  module Finding
    # The tips and grains of a library's brushes, each once, with the brushes that have it.
    module Parts
      # Names of brushes that are told for each part.
      TOLD = 3

      # @param library [Models::Library]
      # @param shelf [ActiveRecord::Relation<Models::Part>] what lies on the shelves that the person sees
      # @return [Array<Hash>] tip (as a document has it), brushes (names), count; most used first, then the shelf's
      def self.tips(library, shelf)
        used = pick(library, :tip, "e.document #> '{tip,form}'", "e.document #>> '{tip,form,kind}' <> 'round'")
        known = used.map { _1[:tip] }
        used + shelf.where(kind: %w[tip drawing]).order(:name).filter_map { |part|
          lines = part.ext == "svg"
          tip = lines ? {
            "kind" => "shape",
            "asset" => part.reference
          } : {"kind" => "picture", "frames" => [part.reference]}
          {tip:, brushes: [part.name], count: 0} unless known.include?(tip)
        }
      end

      # @param library [Models::Library]
      # @param shelf [ActiveRecord::Relation<Models::Part>]
      # @return [Array<Hash>] asset ("sha256:…"), brushes, count
      def self.grains(library, shelf)
        used = pick(library, :asset, "e.document #> '{grain,asset}'", "e.document #>> '{grain,asset}' IS NOT NULL")
        known = used.map { _1[:asset] }
        used + shelf.where(kind: "grain").order(:name).filter_map { |part|
          {asset: part.reference, brushes: [part.name], count: 0} unless known.include?(part.reference)
        }
      end

      def self.pick(library, name, part, condition)
        rows = Models::Record.connection.select_rows(<<~SQL, "Parts", [library.id])
          SELECT #{part} AS part, (array_agg(p.name ORDER BY p.name))[1:#{TOLD}], count(*)
          FROM presets p JOIN versions e ON e.id = p.current_version_id
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
