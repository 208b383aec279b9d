# frozen_string_literal: true

# Tips that are being made.
class CreateTipMaker < ActiveRecord::Migration[7.2]
  def up
    create_table "works" do |t|
      t.bigint "library_id", null: false
      t.bigint "person_id", null: false
      t.text "name", null: false
      t.integer "place", default: 0, null: false
      t.datetime "thrown_at"
      t.datetime "created_at", null: false
      t.datetime "updated_at", null: false
      t.index ["library_id", "person_id", "updated_at"], name: "index_works_on_library_id_and_person_id_and_updated_at"
      t.index ["library_id"], name: "index_works_on_library_id"
      t.index ["person_id"], name: "index_works_on_person_id"
    end

    create_table "work_pages" do |t|
      t.bigint "work_id", null: false
      t.text "name", null: false
      t.text "sha256", null: false
      t.text "drawing"
      t.jsonb "made"
      t.jsonb "facts", null: false
      t.binary "screen", null: false
      t.binary "labels", null: false
      t.datetime "created_at", null: false
      t.index ["work_id"], name: "index_work_pages_on_work_id"
    end

    create_table "work_steps" do |t|
      t.bigint "work_id", null: false
      t.integer "number", null: false
      t.jsonb "state", null: false
      t.index ["work_id", "number"], name: "index_work_steps_on_work_id_and_number", unique: true
    end
  end

  def down = raise(ActiveRecord::IrreversibleMigration)
end
