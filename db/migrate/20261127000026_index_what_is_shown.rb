# frozen_string_literal: true

# The Wall's orders hold what is not in the Attic and nothing else, so that any page of it is found in the index alone.
# What a search found is kept while nothing changes that it could have looked at: tags, families and work states too.
class IndexWhatIsShown < ActiveRecord::Migration[7.2]
  ORDERS = {
    "presets_by_change" => "library_id, changed_at DESC NULLS LAST, id",
    "presets_by_name" => "library_id, name, id",
    "presets_by_size" => "library_id, size, name, id"
  }.freeze
  NOTED = %w[tags tag_synonyms families labels].freeze
  EVENTS = {"INSERT" => "NEW", "UPDATE" => "NEW", "DELETE" => "OLD"}.freeze

  def up
    ORDERS.each do |name, columns|
      remove_index :presets, name: name
      add_index :presets, columns, name: name, where: "hidden_at IS NULL"
    end
    NOTED.each do |table|
      execute <<~SQL
        CREATE FUNCTION note_change_of_#{table}() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
          INSERT INTO wall_changes (library_id) SELECT DISTINCT library_id FROM changed ON CONFLICT DO NOTHING;
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
    NOTED.each { |table| execute "DROP FUNCTION note_change_of_#{table}() CASCADE" }
    ORDERS.each do |name, columns|
      remove_index :presets, name: name
      add_index :presets, columns, name: name
    end
  end
end
