# frozen_string_literal: true

# Pieces of work in the tip maker, with their pages and every step; parts that lie on a shelf by themselves.
class AddWorks < ActiveRecord::Migration[7.2]
  def change
    create_table :works do |t|
      t.references :library, null: false, foreign_key: true
      t.references :person, null: false, foreign_key: true
      t.text :name, null: false
      t.integer :place, null: false, default: 0
      t.datetime :thrown_at
      t.timestamps
      t.index %i[library_id person_id updated_at]
    end

    create_table :work_pages do |t|
      t.references :work, null: false, foreign_key: {on_delete: :cascade}
      t.text :name, null: false
      t.text :sha256, null: false
      t.text :drawing
      t.jsonb :made
      t.jsonb :facts, null: false
      t.binary :screen, null: false
      t.binary :labels, null: false
      t.datetime :created_at, null: false
    end

    create_table :work_steps do |t|
      t.references :work, null: false, foreign_key: {on_delete: :cascade}, index: false
      t.integer :number, null: false
      t.jsonb :state, null: false
      t.index %i[work_id number], unique: true
    end

    add_column :assets, :facts, :jsonb

    create_table :parts do |t|
      t.references :library, null: false, foreign_key: true
      t.references :person, foreign_key: true
      t.text :kind, null: false
      t.text :name, null: false
      t.text :tags, array: true, null: false, default: []
      t.text :sha256, null: false
      t.text :ext, null: false, default: "png"
      t.jsonb :made
      t.datetime :hidden_at
      t.timestamps
      t.index %i[library_id sha256]
    end
  end
end
