# frozen_string_literal: true

# What comes in (arrivals with their files, things and pictures), what went out (exports), long
# work with its progress, recipes, and tokens for programs.
class AddIntake < ActiveRecord::Migration[7.2]
  def up
    Que.migrate!(version: Que::Migrations::CURRENT_VERSION)
    create_work
    create_arrivals
    create_outgoing
    # Pictures and packages are packed already: packing them again costs time and gains nothing.
    {
      assets: :bytes,
      releases: :package,
      arrival_chunks: :bytes,
      arrival_parts: :bytes,
      strips: :png
    }.each { |table, column|
      execute "ALTER TABLE #{table} ALTER COLUMN #{column} SET STORAGE EXTERNAL"
    }
  end

  def down
    %i[
      access_tokens
      gallery_tokens
      recipes
      exports
      arrival_parts
      arrival_items
      arrival_chunks
      arrival_files
      arrivals
      tasks
    ].each {
      drop_table _1
    }
    Que.migrate!(version: 0)
  end

  private

  def create_work
    create_table :tasks do |t|
      t.references :library, null: false, foreign_key: true
      t.references :person, foreign_key: true
      t.string :kind, null: false
      t.string :state, null: false, default: "waiting"
      t.jsonb :about, null: false, default: {}
      t.bigint :done, null: false, default: 0
      t.bigint :total, null: false, default: 0
      t.string :message, null: false, default: ""
      t.timestamps
      t.check_constraint "state IN ('waiting', 'working', 'done', 'failed')"
    end
  end

  def create_arrivals
    create_table :arrivals do |t|
      t.references :library, null: false, foreign_key: true
      t.references :person, foreign_key: true
      t.references :task, foreign_key: true
      t.references :ledger_entry, foreign_key: true
      t.string :name, null: false
      t.string :source, null: false
      t.string :state, null: false, default: "open"
      t.jsonb :words, null: false, default: {}
      t.jsonb :choices, null: false, default: {}
      t.jsonb :report
      t.datetime :applied_at
      t.timestamps
      t.check_constraint "state IN ('open', 'reading', 'planned', 'applying', 'applied', 'left')"
    end
    create_table :arrival_files do |t|
      t.references :arrival, null: false, foreign_key: {on_delete: :cascade}
      t.string :name, null: false
      t.bigint :size, null: false, default: 0
    end
    create_table :arrival_chunks do |t|
      t.references :arrival_file, null: false, foreign_key: {on_delete: :cascade}
      t.integer :position, null: false
      t.binary :bytes, null: false
    end
    create_table :arrival_items do |t|
      t.references :arrival, null: false, foreign_key: {on_delete: :cascade}
      t.integer :position, null: false
      t.string :kind, null: false
      t.string :name, null: false
      t.string :source, null: false
      t.string :sentence, null: false, default: ""
      t.integer :edition, null: false, default: 1
      t.uuid :document_id
      t.jsonb :document
      t.string :fingerprint, limit: 64
      t.string :needs, array: true, null: false, default: []
      t.string :group
      t.string :way
      t.string :usual
    end
    create_table :arrival_parts do |t|
      t.references :arrival, null: false, foreign_key: {on_delete: :cascade}
      t.string :sha256, limit: 64, null: false
      t.string :ext, null: false
      t.binary :bytes, null: false
      t.index %i[arrival_id sha256], unique: true
    end
  end

  def create_outgoing
    create_table :exports do |t|
      t.references :library, null: false, foreign_key: true
      t.references :person, null: false, foreign_key: true
      t.references :release, foreign_key: true
      t.string :kind, null: false
      t.string :name, null: false
      t.string :file, null: false
      t.string :goes_to, null: false
      t.jsonb :wish, null: false
      t.integer :count, null: false
      t.bigint :size, null: false
      t.string :sha256, limit: 64, null: false
      t.datetime :created_at, null: false
    end
    create_table :recipes do |t|
      t.references :library, null: false, foreign_key: true
      t.string :name, null: false, collation: "natural_order"
      t.string :scope, null: false
      t.string :file, null: false
      t.text :body, null: false
      t.timestamps
      t.index "library_id, lower(name)", unique: true, name: "recipes_one_of_a_name"
    end
    create_table :access_tokens do |t|
      t.references :person, null: false, foreign_key: true
      t.string :name, null: false
      t.string :digest, limit: 64, null: false, index: {unique: true}
      t.datetime :last_used_at
      t.datetime :created_at, null: false
    end
    create_table :gallery_tokens do |t|
      t.references :person, null: false, foreign_key: true, index: {unique: true}
      t.string :token, null: false
      t.timestamps
    end
  end
end
