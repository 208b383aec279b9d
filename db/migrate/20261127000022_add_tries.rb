# frozen_string_literal: true

# How often something was tried lately (signing in), counted by all processes together.
class AddTries < ActiveRecord::Migration[7.2]
  def change
    create_table :tries, id: false do |t|
      t.string :key, null: false, primary_key: true
      t.integer :count, null: false, default: 0
      t.timestamptz :ends_at, null: false
    end
  end
end
