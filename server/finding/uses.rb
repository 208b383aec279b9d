# frozen_string_literal: true

module Fobrel
  module Finding
    # Where brushes of a library are used: in its sets, bundles and start-up plans, and by libraries that follow it.
    module Uses
      HERE = <<~TEXT
        SELECT i.preset_id, 1 AS kind, 'bundle ' || b.name AS place, 'bundles' AS view, b.id AS target
          FROM bundle_items i JOIN bundles b ON b.id = i.bundle_id
        UNION ALL
        SELECT i.preset_id, 2, 'set ' || s.name, 'sets', s.id FROM set_items i JOIN brush_sets s ON s.id = i.brush_set_id
        UNION ALL
        SELECT i.preset_id, 3, CASE WHEN s.template THEN 'template ' ELSE 'desk ' END || s.name, 'desks', s.id
          FROM start_items i JOIN desks s ON s.id = i.desk_id
      TEXT
      # What others have of them. A release keeps its own copy whatever becomes of a brush, which matters only of one
      # that lies hidden.
      ELSEWHERE = <<~TEXT
        UNION ALL
        SELECT q.id, 4, 'followed by ' || l.name, NULL, NULL FROM follows f
          JOIN bundles b ON b.id = f.bundle_id JOIN followed_brushes w ON w.follow_id = f.id AND w.left_as IS NULL
          JOIN libraries l ON l.id = f.library_id
          JOIN presets q ON q.library_id = b.library_id AND q.document_id = w.document_id::uuid
        UNION ALL
        SELECT q.id, 5, 'kept in ' || b.name || ' ' || r.number, 'bundles', b.id FROM releases r
          JOIN bundles b ON b.id = r.bundle_id CROSS JOIN LATERAL jsonb_array_elements(r.items) AS item
          JOIN presets q ON q.library_id = b.library_id AND q.document_id::text = item->>'id'
          WHERE q.hidden_at IS NOT NULL
      TEXT
      # They keep a brush from being destroyed, and matter to nobody else.
      DRAFTS = <<~TEXT
        UNION ALL
        SELECT d.preset_id, 6, 'a draft of ' || n.name, NULL, NULL FROM drafts d
          JOIN people n ON n.id = d.person_id JOIN presets q ON q.id = d.preset_id WHERE q.hidden_at IS NOT NULL
      TEXT
      private_constant :HERE, :ELSEWHERE, :DRAFTS

      class << self
        # @param library [Models::Library]
        # @param ids [Array<Integer>] of its brushes
        # @return [Array<Hash>] {id:, name:, places: [String], links: [{text:, view:, target:}]} of those that are used
        #   somewhere, by name
        def of(library, ids)
          rows(library, ids, HERE + ELSEWHERE + DRAFTS).map { |id, name, links|
            {id:, name:, places: links.map { _1["text"] }, links:}
          }
        end

        # @param library [Models::Library]
        # @param ids [Array<Integer>]
        # @return [Hash{Integer => Array<String>}] where each is used within its own library
        def here(library, ids) = places(rows(library, ids, HERE))

        # What keeps a brush from being destroyed: where it is used here, and drafts of it.
        #
        # @return [Hash{Integer => Array<String>}]
        def keeping(library, ids) = places(rows(library, ids, HERE + DRAFTS))

        private

        def places(rows)
          rows.to_h { |id, _, links| [id, links.map { _1["text"] }] }.tap { |found| found.default = [].freeze }
        end

        def rows(library, ids, places)
          sql = <<~TEXT
            SELECT p.id, p.name, json_agg(json_build_object('text', u.place, 'view', u.view, 'target', u.target)
              ORDER BY u.kind, u.place)
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
