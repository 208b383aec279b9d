# frozen_string_literal: true

# Each backup of the whole studio that was begun: by the night, or by whoever runs the studio.
class AddStudioBackups < ActiveRecord::Migration[7.2]
  def change
    create_table :studio_backups do |t|
      t.references :person, foreign_key: true
      t.string :file, null: false
      t.string :problem
      t.bigint :size
      t.bigint :rows
      t.bigint :pictures
      t.string :trial_problem
      t.datetime :made_at
      t.datetime :tried_at
      t.datetime :ended_at
      t.datetime :created_at, null: false
    end
    # One at a time.
    add_index :studio_backups, "(ended_at IS NULL)", unique: true, where: "ended_at IS NULL", name: "one_studio_backup"
  end
end
