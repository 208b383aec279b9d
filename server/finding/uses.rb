# frozen_string_literal: true

module Fobrel
  module Finding
    # Where brushes are used: sets, bundles, start plans, and the libraries that follow a bundle with them.
    module Uses
      SQL = <<~TEXT
        SELECT p.id, p.name, array_agg(DISTINCT u.place ORDER BY u.place) FROM presets p JOIN (
          SELECT i.preset_id, 'set ' || s.name AS place FROM set_items i JOIN brush_sets s ON s.id = i.brush_set_id
          UNION ALL
          SELECT i.preset_id, 'bundle ' || b.name FROM bundle_items i JOIN bundles b ON b.id = i.bundle_id
          UNION ALL
          SELECT i.preset_id, 'seat ' || s.name FROM start_items i JOIN seats s ON s.id = i.seat_id
          UNION ALL
          SELECT q.id, 'followed by ' || l.name FROM follows f
            JOIN bundles b ON b.id = f.bundle_id JOIN followed_brushes w ON w.follow_id = f.id
            JOIN libraries l ON l.id = f.library_id
            JOIN presets q ON q.library_id = b.library_id AND q.document_id = w.document_id::uuid
        ) u ON u.preset_id = p.id
        WHERE p.library_id = $1 AND p.id = ANY ($2::bigint[]) GROUP BY p.id, p.name ORDER BY p.name
      TEXT
      private_constant :SQL

      # @param library [Models::Library]
      # @param ids [Array<Integer>] of its brushes
      # @return [Array<Hash>] {id:, name:, places: [String]} of those that are used somewhere
      def self.of(library, ids)
        names = PG::TextDecoder::Array.new
        Models::Record.connection.select_rows(SQL, "Uses", [library.id, "{#{ids.map(&:to_i).join(",")}}"])
          .map { |id, name, places| {id:, name:, places: places.is_a?(String) ? names.decode(places) : places} }
      end
    end
  end
end
