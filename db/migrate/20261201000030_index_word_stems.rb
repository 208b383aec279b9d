# frozen_string_literal: true

# A word finds its plural and its other forms: the stems (Snowball, as PostgreSQL has it) of all that a brush is found
# by.
class IndexWordStems < ActiveRecord::Migration[7.2]
  def up
    execute "ALTER TABLE presets ADD COLUMN stems tsvector GENERATED ALWAYS AS (to_tsvector('english', words)) STORED"
    add_index :presets, :stems, using: :gin
  end

  def down
    remove_column :presets, :stems
  end
end
