# frozen_string_literal: true

# What the Bench needs beside presets and editions: locks, homes with their history, names of
# important editions, favourites, each person's hand and trial strokes.
class AddBench < ActiveRecord::Migration[7.2]
  def change
    add_reference :presets, :locked_by, foreign_key: {to_table: :people}
    create_table :homes do |t|
      t.references :preset, null: false, foreign_key: true
      t.references :edition, null: false, foreign_key: true
      t.references :person, null: false, foreign_key: true
      t.datetime :created_at, null: false
    end
    create_table :edition_names do |t|
      t.references :edition, null: false, foreign_key: true, index: {unique: true}
      t.string :name, null: false
    end
    create_table :favourites do |t|
      t.references :person, null: false, foreign_key: true
      t.references :preset, null: false, foreign_key: true
      t.datetime :created_at, null: false
      t.index %i[person_id preset_id], unique: true
    end
    create_table :hands do |t|
      t.references :person, null: false, foreign_key: true, index: {unique: true}
      t.jsonb :settings, null: false
      t.timestamps
    end
    create_table :trial_strokes do |t|
      t.references :person, null: false, foreign_key: true
      t.string :name, null: false, collation: "natural_order"
      t.integer :width, null: false
      t.integer :height, null: false
      t.jsonb :samples, null: false
      t.datetime :created_at, null: false
      t.index "person_id, lower(name)", unique: true
    end
  end
end
