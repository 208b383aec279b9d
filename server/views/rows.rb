# frozen_string_literal: true

module Fobrel
  module Views
    # Brushes as rows of the brush list, for every view that lists some.
    module Rows
      # One question for all of it, written as JSON by the database: no record is built for a row.
      SQL = <<~TEXT
        SELECT coalesce(json_agg(r ORDER BY place), '[]') FROM (
          SELECT o.place, p.id, p.name, p.document_id, p.fingerprint, p.altered, p.size, p.traits, p.author, p.licence,
            p.category_id, p.status_id, p.picture, c.number AS version, h.number AS baseline,
            CASE WHEN length(p.notes) > 160 THEN left(p.notes, 157) || '...' ELSE p.notes END AS notes,
            to_char(p.changed_at, 'YYYY-MM-DD"T"HH24:MI:SS"Z"') AS changed_at,
            EXISTS (SELECT 1 FROM drafts d WHERE d.preset_id = p.id AND d.person_id = $2) AS draft,
            EXISTS (SELECT 1 FROM favourites f WHERE f.preset_id = p.id AND f.person_id = $2) AS favourite,
            p.locked_by_id IS NOT NULL AS locked,
            ARRAY(SELECT tag_id FROM taggings t WHERE t.preset_id = p.id) AS tag_ids
          FROM unnest($1::bigint[]) WITH ORDINALITY AS o(id, place)
          JOIN presets p ON p.id = o.id
          JOIN versions c ON c.id = p.current_version_id
          JOIN versions h ON h.id = p.baseline_version_id
        ) r
      TEXT
      private_constant :SQL

      # @param presets [ActiveRecord::Relation<Models::Preset>, Array<Models::Preset>] in the order wanted
      # @param person [Models::Person] whose drafts and favourites are told
      # @return [Array<Hash>] with string keys, as openapi.yaml describes Preset
      def self.of(presets, person)
        by_id(presets.is_a?(ActiveRecord::Relation) ? presets.pluck("presets.id") : presets.map(&:id), person)
      end

      # @param ids [Array<Integer>] in the order wanted
      # @return [Array<Hash>] as .of
      def self.by_id(ids, person)
        json = Models::Record.connection.select_all(SQL, "Rows", ["{#{ids.join(",")}}", person.id]).rows.first.first
        JSON.parse(json).each { |row| row.delete("place") }
      end
    end
  end
end
