# frozen_string_literal: true

# What stands nowhere is asked for, too: sets and start plans that change are noted as tags and families are.
class NoteChangesOfPlaces < ActiveRecord::Migration[7.2]
  HOLDERS = {"set_items" => "brush_sets", "start_items" => "seats"}.freeze
  EVENTS = {"INSERT" => "NEW", "UPDATE" => "NEW", "DELETE" => "OLD"}.freeze

  def up
    HOLDERS.each do |table, holders|
      execute <<~SQL
        CREATE FUNCTION note_change_of_#{table}() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
          INSERT INTO wall_changes (library_id, preset_ids)
          SELECT DISTINCT h.library_id, '{}'::bigint[] FROM changed
          JOIN #{holders} h ON h.id = changed.#{holders.delete_suffix("s")}_id
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
    HOLDERS.each_key { |table| execute "DROP FUNCTION note_change_of_#{table}() CASCADE" }
  end
end
