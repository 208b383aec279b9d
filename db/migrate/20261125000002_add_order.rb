# frozen_string_literal: true

# What finding and ordering several thousand brushes needs: words to search, facets to count,
# families, labels, synonyms of tags, standing sets, sections, the Attic, what was used last.
class AddOrder < ActiveRecord::Migration[7.2]
  def change
    enable_extension "pg_trgm"
    create_families
    create_marks
    change_presets
    change_sets
    add_column :strips, :hash64, :bigint
  end

  private

  def create_families
    create_table :families do |t|
      t.references :library, null: false, foreign_key: true
      t.references :parent, foreign_key: {to_table: :families}
      t.string :name, null: false, collation: "natural_order"
      t.integer :position, null: false, default: 0
      t.index "library_id, coalesce(parent_id, 0), lower(name)", unique: true, name: "families_one_of_a_name"
    end
    create_table :labels do |t|
      t.references :library, null: false, foreign_key: true
      t.string :name, null: false, collation: "natural_order"
      t.string :colour, null: false
      t.string :shape, null: false
      t.integer :position, null: false, default: 0
      t.index "library_id, lower(name)", unique: true, name: "labels_one_of_a_name"
    end
  end

  def create_marks
    create_table :tag_synonyms do |t|
      t.references :tag, null: false, foreign_key: true
      t.references :library, null: false, foreign_key: true
      t.string :name, null: false
      t.index "library_id, lower(name)", unique: true, name: "tag_synonyms_one_of_a_name"
    end
    create_table :recents do |t|
      t.references :person, null: false, foreign_key: true
      t.references :preset, null: false, foreign_key: true
      t.datetime :used_at, null: false
      t.index %i[person_id preset_id], unique: true
    end
  end

  def change_presets
    change_table :presets, bulk: true do |t|
      t.references :family, foreign_key: true
      t.references :label, foreign_key: true
      t.datetime :hidden_at
      t.references :hidden_by, foreign_key: {to_table: :people}
      t.text :words, null: false, default: ""
      t.text :plain_name, null: false, default: ""
      t.string :traits, array: true, null: false, default: []
      t.float :size, null: false, default: 0
      t.string :author, null: false, default: ""
      t.string :licence, null: false, default: ""
      t.string :notes, null: false, default: ""
      t.string :fingerprint, limit: 64
      t.boolean :altered, null: false, default: false
      t.float :hue
      t.datetime :changed_at
    end
    add_index :presets, :words, using: :gin, opclass: :gin_trgm_ops
    add_index :presets, :traits, using: :gin
    add_index :presets, :fingerprint
  end

  def change_sets
    add_column :brush_sets, :query, :string
    add_column :set_items, :section, :string
  end
end
