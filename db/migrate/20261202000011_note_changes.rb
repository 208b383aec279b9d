# frozen_string_literal: true

# Each transaction that changes what a search looks at is noted once a library, so that what was counted before need
# not be counted again while nothing has changed. A note is a row of its own: no writer waits for another. It names
# the brushes that changed; NULL says that any may have.
class NoteChanges < ActiveRecord::Migration[7.2]
  # More are not named one by one.
  MOST = 500
  BRUSHES = {
    "presets" => "SELECT library_id, id FROM changed",
    "taggings" => "SELECT p.library_id, p.id FROM changed JOIN presets p ON p.id = changed.preset_id"
  }.freeze
  # No brush changes with these, but what is found may.
  OTHERS = {
    "tags" => "SELECT library_id FROM changed",
    "tag_synonyms" => "SELECT library_id FROM changed",
    "categories" => "SELECT library_id FROM changed",
    "statuses" => "SELECT library_id FROM changed",
    "set_items" => "SELECT h.library_id FROM changed JOIN brush_sets h ON h.id = changed.brush_set_id",
    "start_items" => "SELECT h.library_id FROM changed JOIN desks h ON h.id = changed.desk_id"
  }.freeze
  EVENTS = {"INSERT" => "NEW", "UPDATE" => "NEW", "DELETE" => "OLD"}.freeze

  def up
    BRUSHES.each { |table, rows| note(table, changed_brushes(rows)) }
    OTHERS.each do |table, rows|
      note(table, "SELECT DISTINCT library_id, '{}'::bigint[] FROM (#{rows}) AS each ON CONFLICT DO NOTHING")
    end
  end

  def down = raise(ActiveRecord::IrreversibleMigration)

  private

  def changed_brushes(rows)
    <<~SQL
      SELECT library_id, CASE WHEN count(*) <= #{MOST} THEN array_agg(id) END FROM (#{rows}) AS each
      WHERE library_id IS NOT NULL GROUP BY library_id
      ON CONFLICT (library_id, txid) DO UPDATE SET preset_ids =
        CASE WHEN EXCLUDED.preset_ids IS NOT NULL AND
          cardinality(note.preset_ids) + cardinality(EXCLUDED.preset_ids) <= #{MOST}
        THEN note.preset_ids || EXCLUDED.preset_ids END
      WHERE NOT coalesce(EXCLUDED.preset_ids <@ note.preset_ids, note.preset_ids IS NULL)
    SQL
  end

  def note(table, rows)
    execute <<~SQL
      CREATE FUNCTION note_change_of_#{table}() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        INSERT INTO brush_changes AS note (library_id, preset_ids) #{rows.strip};
        RETURN NULL;
      END $$
    SQL
    EVENTS.each do |event, rows_of|
      execute <<~SQL
        CREATE TRIGGER note_#{event.downcase} AFTER #{event} ON #{table} REFERENCING #{rows_of} TABLE AS changed
        FOR EACH STATEMENT EXECUTE FUNCTION note_change_of_#{table}()
      SQL
    end
  end
end
