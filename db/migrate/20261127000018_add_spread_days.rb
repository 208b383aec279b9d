# frozen_string_literal: true

# How many places had the newest of a library, day by day.
class AddSpreadDays < ActiveRecord::Migration[7.2]
  def up
    execute <<~SQL
      CREATE TABLE spread_days (
        library_id bigint NOT NULL REFERENCES libraries ON DELETE CASCADE,
        day date NOT NULL, places integer NOT NULL, newest integer NOT NULL,
        PRIMARY KEY (library_id, day))
    SQL
  end

  def down = drop_table(:spread_days)
end
