# frozen_string_literal: true

# Each transaction that changes a library's brushes or their tags is noted once, so that what was counted before need
# not be counted again while nothing has changed. Whoever writes waits for nobody: a note is a row of its own.
class NoteWallChanges < ActiveRecord::Migration[7.2]
  NOTED = {
    "presets" => "library_id",
    "taggings" => "(SELECT library_id FROM presets WHERE id = changed.preset_id)"
  }.freeze
  EVENTS = {"INSERT" => "NEW", "UPDATE" => "NEW", "DELETE" => "OLD"}.freeze

  def up
    create_table :wall_changes, id: false do |t|
      t.bigint :library_id, null: false
      t.bigint :txid, null: false, default: -> { "txid_current()" }
      t.index %i[library_id txid], unique: true
    end
    NOTED.each do |table, library|
      execute <<~SQL
        CREATE FUNCTION note_change_of_#{table}() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
          INSERT INTO wall_changes (library_id)
          SELECT DISTINCT library FROM (SELECT #{library} AS library FROM changed) AS each WHERE library IS NOT NULL
          ON CONFLICT DO NOTHING;
          RETURN NULL;
        END $$
      SQL
      EVENTS.each do |event, rows|
        execute <<~SQL
          CREATE TRIGGER note_#{event.downcase} AFTER #{event} ON #{table} REFERENCING #{rows} TABLE AS changed
          FOR EACH STATEMENT EXECUTE FUNCTION note_change_of_#{table}()
        SQL
      end
    end
  end

  def down
    NOTED.each_key { |table| execute "DROP FUNCTION note_change_of_#{table}() CASCADE" }
    drop_table :wall_changes
  end
end
