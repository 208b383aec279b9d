# frozen_string_literal: true

# How long a library keeps what is no longer needed; what each night took away; how busy each process is.
class AddUpkeep < ActiveRecord::Migration[7.2]
  def change
    add_column :libraries, :upkeep, :jsonb, null: false, default: {}

    create_table :cleanings do |t|
      t.references :person, foreign_key: true
      t.date :night, index: {unique: true}
      t.jsonb :took, null: false, default: {}
      t.bigint :before
      t.bigint :after
      t.datetime :ended_at
      t.datetime :created_at, null: false
    end

    create_table :pulses do |t|
      t.integer :pid, null: false
      t.string :host, null: false
      t.string :kind, null: false
      t.jsonb :said, null: false, default: {}
      t.datetime :seen_at, null: false
      t.index %i[host pid], unique: true
    end

    add_index :arrival_items, :fingerprint
    add_index :ledger_entries, :created_at
  end
end
