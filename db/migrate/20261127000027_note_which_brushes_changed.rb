# frozen_string_literal: true

# A note says which brushes changed, so that what is kept of all the others stays. NULL says: any may have.
class NoteWhichBrushesChanged < ActiveRecord::Migration[7.2]
  # More are not told one by one.
  MOST = 500
  OF_BRUSHES = {
    "presets" => "SELECT library_id, id FROM changed",
    "taggings" => "SELECT p.library_id, p.id FROM changed JOIN presets p ON p.id = changed.preset_id"
  }.freeze
  OF_OTHERS = %w[tags tag_synonyms families labels].freeze

  def up
    add_column :wall_changes, :preset_ids, :bigint, array: true
    OF_BRUSHES.each do |table, rows|
      note(table, <<~SQL)
        SELECT library_id, CASE WHEN count(*) <= #{MOST} THEN array_agg(id) END FROM (#{rows}) AS each
        WHERE library_id IS NOT NULL GROUP BY library_id
        ON CONFLICT (library_id, txid) DO UPDATE SET preset_ids =
          CASE WHEN EXCLUDED.preset_ids IS NOT NULL AND
            cardinality(note.preset_ids) + cardinality(EXCLUDED.preset_ids) <= #{MOST}
          THEN note.preset_ids || EXCLUDED.preset_ids END
        WHERE NOT coalesce(EXCLUDED.preset_ids <@ note.preset_ids, note.preset_ids IS NULL)
      SQL
    end
    OF_OTHERS.each do |table|
      note(table, "SELECT DISTINCT library_id, '{}'::bigint[] FROM changed ON CONFLICT DO NOTHING")
    end
  end

  def down
    (OF_BRUSHES.keys + OF_OTHERS).each do |table|
      library = (table == "taggings") ? "(SELECT library_id FROM presets WHERE id = preset_id)" : "library_id"
      function(table, <<~SQL)
        INSERT INTO wall_changes (library_id)
        SELECT DISTINCT library FROM (SELECT #{library} AS library FROM changed) AS each WHERE library IS NOT NULL
        ON CONFLICT DO NOTHING
      SQL
    end
    remove_column :wall_changes, :preset_ids
  end

  private

  def note(table, rows) = function(table, "INSERT INTO wall_changes AS note (library_id, preset_ids) #{rows}")

  def function(table, statement)
    execute <<~SQL
      CREATE OR REPLACE FUNCTION note_change_of_#{table}() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        #{statement.strip};
        RETURN NULL;
      END $$
    SQL
  end
end
