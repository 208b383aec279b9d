# frozen_string_literal: true

# How alike two strips are, looked at closely once: both are content, so it never changes.
class AddLikenesses < ActiveRecord::Migration[7.2]
  def change
    create_table :likenesses do |t|
      t.string :one, limit: 64, null: false
      t.string :other, limit: 64, null: false
      t.integer :version, null: false
      t.float :alike, null: false
      t.index %i[one other version], unique: true
    end
  end
end
