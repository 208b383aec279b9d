# frozen_string_literal: true

# People, libraries, presets with editions, pictures, tags, sets, seats, the ledger.
class CreateStudio < ActiveRecord::Migration[7.2]
  def change
    reversible do |direction|
      # Natural order: "tip 2" before "tip 10", a leading underscore first, in any language.
      direction.up { execute "CREATE COLLATION natural_order (provider = icu, locale = 'und-u-kn-true')" }
      direction.down { execute "DROP COLLATION natural_order" }
    end
    create_people
    create_presets
    create_groups
    create_seats
    create_ledger
  end

  private

  def create_people
    create_table :people do |t|
      t.string :name, null: false
      t.string :login, null: false, index: {unique: true}
      t.string :password_digest, null: false
      t.timestamps
    end
    create_table :libraries do |t|
      t.string :name, null: false, collation: "natural_order"
      t.timestamps
    end
    create_table :memberships do |t|
      t.references :person, null: false, foreign_key: true
      t.references :library, null: false, foreign_key: true
      t.string :role, null: false
      t.index %i[person_id library_id], unique: true
      t.check_constraint "role IN ('guest', 'artist', 'lead')"
    end
  end

  def create_presets
    create_table :assets, id: false do |t|
      t.string :sha256, limit: 64, null: false, primary_key: true
      t.string :ext, null: false
      t.binary :bytes, null: false
      t.datetime :created_at, null: false
    end
    create_table :presets do |t|
      t.references :library, null: false, foreign_key: true
      t.uuid :document_id, null: false
      t.string :name, null: false, collation: "natural_order"
      t.bigint :current_edition_id
      t.bigint :home_edition_id
      t.timestamps
      t.index %i[library_id document_id], unique: true
      t.index %i[library_id name]
    end
    create_table :editions do |t|
      t.references :preset, null: false, foreign_key: true
      t.integer :number, null: false
      t.jsonb :document, null: false
      t.string :fingerprint, limit: 64, null: false, index: true
      t.string :note, null: false, default: ""
      t.references :person, foreign_key: true
      t.datetime :created_at, null: false
      t.index %i[preset_id number], unique: true
    end
    create_table :edition_needs, id: false do |t|
      t.references :edition, null: false, foreign_key: true
      t.string :sha256, limit: 64, null: false, index: true
      t.index %i[edition_id sha256], unique: true
    end
    add_foreign_key :edition_needs, :assets, column: :sha256, primary_key: :sha256
    add_foreign_key :presets, :editions, column: :current_edition_id, deferrable: :deferred
    add_foreign_key :presets, :editions, column: :home_edition_id, deferrable: :deferred
    create_table :drafts do |t|
      t.references :person, null: false, foreign_key: true
      t.references :preset, null: false, foreign_key: true
      t.references :base_edition, null: false, foreign_key: {to_table: :editions}
      t.jsonb :document, null: false
      t.string :fingerprint, limit: 64, null: false, index: true
      t.timestamps
      t.index %i[person_id preset_id], unique: true
    end
    create_table :strips do |t|
      t.string :fingerprint, limit: 64, null: false
      t.string :shape, null: false
      t.integer :version, null: false
      t.binary :png, null: false
      t.index %i[fingerprint shape version], unique: true
    end
  end

  def create_groups
    create_table :tags do |t|
      t.references :library, null: false, foreign_key: true
      t.string :name, null: false, collation: "natural_order"
      t.string :colour, null: false
      t.string :shape, null: false
      t.index "library_id, lower(name)", unique: true
    end
    create_table :taggings do |t|
      t.references :tag, null: false, foreign_key: true
      t.references :preset, null: false, foreign_key: true
      t.index %i[tag_id preset_id], unique: true
    end
    create_table :brush_sets do |t|
      t.references :library, null: false, foreign_key: true
      t.string :name, null: false, collation: "natural_order"
      t.timestamps
      t.index "library_id, lower(name)", unique: true
    end
    create_table :set_items do |t|
      t.references :brush_set, null: false, foreign_key: true
      t.references :preset, null: false, foreign_key: true
      t.integer :position, null: false
      t.index %i[brush_set_id preset_id], unique: true
    end
  end

  def create_seats
    create_table :seats do |t|
      t.references :library, null: false, foreign_key: true
      t.string :name, null: false, collation: "natural_order"
      t.string :folder, null: false, index: {unique: true}
      t.datetime :handed_out_at
      t.jsonb :handed_out, null: false, default: []
      t.jsonb :report
      t.timestamps
    end
    create_table :start_items do |t|
      t.references :seat, null: false, foreign_key: true
      t.references :preset, null: false, foreign_key: true
      t.integer :position, null: false
      t.index %i[seat_id preset_id], unique: true
    end
  end

  def create_ledger
    create_table :ledger_entries do |t|
      t.references :library, null: false, foreign_key: true
      t.references :person, null: false, foreign_key: true
      t.string :kind, null: false
      t.string :summary, null: false
      t.jsonb :undo, null: false, default: {}
      t.datetime :undone_at
      t.datetime :created_at, null: false
    end
  end
end
