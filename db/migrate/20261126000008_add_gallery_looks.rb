# frozen_string_literal: true

# What a person asked the outside gallery last, and what it said: only a job asks it.
class AddGalleryLooks < ActiveRecord::Migration[7.2]
  def change
    create_table :gallery_looks do |t|
      t.references :person, null: false, foreign_key: true, index: {unique: true}
      t.string :query, null: false
      t.string :candidate
      t.jsonb :packages, null: false, default: []
      t.string :problem
      t.datetime :silent_at
      t.datetime :asked_at, null: false, index: true
      t.datetime :answered_at
    end
  end
end
