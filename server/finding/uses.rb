# frozen_string_literal: true

module Fobrel
  module Finding
    # Where brushes of a library are used: in its sets, bundles and start plans, and by libraries that follow it.
    module Uses
      HERE = <<~TEXT
        SELECT i.preset_id, 1 AS kind, 'bundle ' || b.name AS place FROM bundle_items i JOIN bundles b ON b.id = i.bundle_id
        UNION ALL
        SELECT i.preset_id, 2, 'set ' || s.name FROM set_items i JOIN brush_sets s ON s.id = i.brush_set_id
        UNION ALL
        SELECT i.preset_id, 3, CASE WHEN s.template THEN 'template ' ELSE 'seat ' END || s.name FROM start_items i JOIN seats s ON s.id = i.seat_id
      TEXT
      FOLLOWERS = <<~TEXT
        UNION ALL
        SELECT q.id, 4, 'followed by ' || l.name FROM follows f
          JOIN bundles b ON b.id = f.bundle_id JOIN followed_brushes w ON w.follow_id = f.id
          JOIN libraries l ON l.id = f.library_id
          JOIN presets q ON q.library_id = b.library_id AND q.document_id = w.document_id::uuid
      TEXT
      private_constant :HERE, :FOLLOWERS

      class << self
        # @param library [Models::Library]
        # @param ids [Array<Integer>] of its brushes
        # @return [Array<Hash>] {id:, name:, places: [String]} of those that are used somewhere, by name
        def of(library, ids) = rows(library, ids, HERE + FOLLOWERS).map { |id, name, places| {id:, name:, places:} }

        # @param library [Models::Library]
        # @param ids [Array<Integer>]
        # @return [Hash{Integer => Array<String>}] where each is used within its own library
        def here(library, ids)
          rows(library, ids, HERE).to_h { |id, _, places| [id, places] }.tap { |found| found.default = [].freeze }
        end

        private

        def rows(library, ids, places)
          sql = <<~TEXT
            SELECT p.id, p.name, json_agg(u.place ORDER BY u.kind, u.place)
            FROM presets p JOIN (SELECT DISTINCT * FROM (#{places}) every) u ON u.preset_id = p.id
            WHERE p.library_id = $1 AND p.id = ANY ($2::bigint[]) GROUP BY p.id, p.name ORDER BY p.name
          TEXT
          found = Models::Record.connection.select_rows(sql, "Uses", [library.id, "{#{ids.map(&:to_i).join(",")}}"])
          found.map { |id, name, list| [id, name, list.is_a?(String) ? JSON.parse(list) : list] }
        end
      end
    end
  end
end
