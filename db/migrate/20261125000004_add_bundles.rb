# frozen_string_literal: true

# Bundles with their brushes in order, and their frozen releases.
class AddBundles < ActiveRecord::Migration[7.2]
  def change
    create_table :bundles do |t|
      t.references :library, null: false, foreign_key: true
      t.string :name, null: false, collation: "natural_order"
      t.string :description, null: false, default: ""
      t.string :author, null: false, default: ""
      t.string :licence, null: false, default: ""
      t.references :cover, foreign_key: {to_table: :presets}
      t.timestamps
      t.index "library_id, lower(name)", unique: true, name: "bundles_one_of_a_name"
    end
    create_table :bundle_items do |t|
      t.references :bundle, null: false, foreign_key: true
      t.references :preset, null: false, foreign_key: true
      t.integer :position, null: false
      t.string :section
      t.index %i[bundle_id preset_id], unique: true
    end
    create_table :releases do |t|
      t.references :bundle, null: false, foreign_key: true
      t.string :number, null: false
      t.string :notes, null: false, default: ""
      t.jsonb :items, null: false
      t.jsonb :words, null: false
      t.binary :package, null: false
      t.string :sha256, limit: 64, null: false
      t.references :person, null: false, foreign_key: true
      t.datetime :withdrawn_at
      t.string :withdrawn_reason
      t.datetime :created_at, null: false
      t.index %i[bundle_id number], unique: true
    end
  end
end
