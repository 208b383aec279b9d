# frozen_string_literal: true

# A library follows another by a right that the other's leads grant and end. A brush that a release no longer holds
# stays known, so that it comes back as what it was when another release holds it again.
class LetFollowsEnd < ActiveRecord::Migration[7.2]
  def change
    create_table :follow_rights do |t|
      t.references :publisher, null: false, foreign_key: {to_table: :libraries}
      t.references :library, null: false, foreign_key: true
      t.text :state, null: false
      t.references :asked_by, foreign_key: {to_table: :people}, index: false
      t.references :decided_by, foreign_key: {to_table: :people}, index: false
      t.text :reason, null: false, default: ""
      t.datetime :decided_at
      t.timestamps
      t.index %i[publisher_id library_id], unique: true
      t.check_constraint "state IN ('asked', 'granted', 'refused', 'ended')"
    end
    add_column :followed_brushes, :left_as, :text
    add_check_constraint :followed_brushes, "left_as IN ('kept', 'hidden')"
    reversible do |direction|
      direction.up do
        execute <<~SQL
          INSERT INTO follow_rights (publisher_id, library_id, state, decided_at, created_at, updated_at)
          SELECT DISTINCT b.library_id, f.library_id, 'granted', now(), now(), now()
          FROM follows f JOIN bundles b ON b.id = f.bundle_id
        SQL
      end
    end
  end
end
