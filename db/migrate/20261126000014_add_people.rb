# frozen_string_literal: true

# People come by invitation and their sessions live here; libraries are of a kind; a brush remembers where it is from.
class AddPeople < ActiveRecord::Migration[7.2]
  def up
    change_table :people do |t|
      t.boolean :owner, null: false, default: false
      t.datetime :closed_at
    end
    execute <<~SQL
      UPDATE people SET owner = true WHERE id = (SELECT min(person_id) FROM memberships WHERE role = 'lead')
    SQL
    create_sign_ins
    create_invitations
    change_table :access_tokens do |t|
      t.text :scope, null: false, default: "write"
      t.references :library, foreign_key: true, index: false
      t.references :seat, foreign_key: {on_delete: :cascade}, index: false
      t.datetime :ends_at
    end
    change_table :libraries do |t|
      t.text :kind, null: false, default: "project"
      t.text :description, null: false, default: ""
      t.datetime :archived_at
      t.references :person, foreign_key: true, index: {unique: true}
    end
    add_column :presets, :came_from, :jsonb
    add_index :presets, "((came_from ->> 'preset')::bigint)", name: "presets_by_origin", where: "came_from IS NOT NULL"
  end

  def down
    remove_column :presets, :came_from
    change_table(:libraries) { |t| t.remove :kind, :description, :archived_at, :person_id }
    change_table(:access_tokens) { |t| t.remove :scope, :library_id, :seat_id, :ends_at }
    drop_table :invitations
    drop_table :sign_ins
    change_table(:people) { |t| t.remove :owner, :closed_at }
  end

  private

  def create_sign_ins
    create_table :sign_ins do |t|
      t.references :person, null: false, foreign_key: true
      t.text :digest, null: false, index: {unique: true}
      t.text :address, null: false
      t.text :agent, null: false
      t.datetime :created_at, null: false
      t.datetime :seen_at, null: false
      t.datetime :ended_at
    end
  end

  def create_invitations
    create_table :invitations do |t|
      t.references :library, null: false, foreign_key: true
      t.references :person, null: false, foreign_key: true
      t.text :role, null: false
      t.text :name, null: false, default: ""
      t.text :digest, null: false, index: {unique: true}
      t.datetime :ends_at, null: false
      t.references :used_by, foreign_key: {to_table: :people}, index: false
      t.datetime :created_at, null: false
    end
  end
end
