# frozen_string_literal: true

# Who has a brush on the Bench at this moment; of no use after a crash.
class AddPresences < ActiveRecord::Migration[7.2]
  def up
    execute <<~SQL
      CREATE UNLOGGED TABLE presences (
        preset_id bigint NOT NULL REFERENCES presets ON DELETE CASCADE,
        person_id bigint NOT NULL REFERENCES people ON DELETE CASCADE,
        seen_at timestamp NOT NULL,
        PRIMARY KEY (preset_id, person_id))
    SQL
  end

  def down = drop_table(:presences)
end
