# frozen_string_literal: true

# A picture that arrives is kept where pictures are kept, once and for good or until the night finds that nobody needs
# it; an arrival only says which it brought. A release out of a backup still lies with its arrival.
class KeepArrivedPicturesOnce < ActiveRecord::Migration[7.2]
  def up
    change_column_null :arrival_parts, :bytes, true
    execute <<~SQL
      INSERT INTO assets (sha256, ext, bytes, created_at)
      SELECT DISTINCT ON (sha256) sha256, ext, bytes, now() FROM arrival_parts WHERE ext <> 'zip'
      ON CONFLICT (sha256) DO UPDATE SET created_at = excluded.created_at
    SQL
    execute "UPDATE arrival_parts SET bytes = NULL WHERE ext <> 'zip'"
    add_index :arrival_parts, :sha256
  end

  def down
    execute <<~SQL
      UPDATE arrival_parts p SET bytes = a.bytes FROM assets a WHERE a.sha256 = p.sha256 AND p.bytes IS NULL
    SQL
    change_column_null :arrival_parts, :bytes, false
    remove_index :arrival_parts, :sha256
  end
end
