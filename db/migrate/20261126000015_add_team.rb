# frozen_string_literal: true

# Brushes offered to a library, what people say about them, what concerns whom; libraries that follow others.
class AddTeam < ActiveRecord::Migration[7.2]
  def change
    create_table :offers do |t|
      t.references :library, null: false, foreign_key: true
      t.references :person, null: false, foreign_key: true
      t.text :sentence, null: false, default: ""
      t.datetime :withdrawn_at
      t.timestamps
    end
    create_table :offer_items do |t|
      t.references :offer, null: false, foreign_key: {on_delete: :cascade}
      t.jsonb :document, null: false
      t.text :fingerprint, null: false, index: true
      t.jsonb :came_from, null: false
      t.text :state, null: false, default: "open"
      t.text :reason
      t.references :decided_by, foreign_key: {to_table: :people}, index: false
      t.datetime :decided_at
      t.bigint :made_id
      t.integer :edition
    end
    create_table :comments do |t|
      t.references :library, null: false, foreign_key: true
      t.references :person, null: false, foreign_key: true
      t.text :about, null: false
      t.bigint :about_id, null: false
      t.integer :edition
      t.float :x
      t.float :y
      t.text :text, null: false
      t.datetime :created_at, null: false
      t.index %i[about about_id id]
    end
    create_table :notices do |t|
      t.references :person, null: false, foreign_key: true, index: false
      t.references :library, null: false, foreign_key: true, index: false
      t.text :kind, null: false
      t.text :text, null: false
      t.text :path, null: false
      t.datetime :created_at, null: false
      t.datetime :seen_at
      t.index %i[person_id id]
      t.index %i[person_id], where: "seen_at IS NULL", name: "notices_unseen"
    end
    add_column :people, :notices_off, :text, array: true, null: false, default: []
    create_follows
  end

  private

  def create_follows
    create_table :follows do |t|
      t.references :library, null: false, foreign_key: true
      t.references :bundle, null: false, foreign_key: true
      t.references :release, foreign_key: true, index: false
      t.references :earlier, foreign_key: {to_table: :releases}, index: false
      t.boolean :stays, null: false, default: false
      t.references :person, null: false, foreign_key: true, index: false
      t.timestamps
      t.index %i[library_id bundle_id], unique: true
    end
    create_table :followed_brushes do |t|
      t.references :follow, null: false, foreign_key: {on_delete: :cascade}, index: false
      t.references :preset, null: false, foreign_key: {on_delete: :cascade}
      t.text :document_id, null: false
      t.jsonb :base, null: false
      t.text :fingerprint, null: false
      t.index %i[follow_id document_id], unique: true
    end
  end
end
