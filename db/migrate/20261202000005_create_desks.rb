# frozen_string_literal: true

# Desks, their start-up plans, and what was sent to them.
class CreateDesks < ActiveRecord::Migration[7.2]
  def up
    create_table "desks" do |t|
      t.bigint "library_id", null: false
      t.string "name", null: false, collation: "natural_order"
      t.string "folder", null: false
      t.datetime "sent_at"
      t.jsonb "sent", default: [], null: false
      t.jsonb "report"
      t.datetime "created_at", null: false
      t.datetime "updated_at", null: false
      t.boolean "template", default: false, null: false
      t.bigint "parent_id"
      t.bigint "person_id"
      t.text "platform", default: "", null: false
      t.text "room", default: "", null: false
      t.integer "canvas_width"
      t.integer "canvas_height"
      t.integer "key_count", default: 10, null: false
      t.integer "memory_limit"
      t.integer "start_limit"
      t.boolean "away", default: false, null: false
      t.datetime "put_aside_at", precision: nil
      t.jsonb "plan_changes", default: [], null: false
      t.jsonb "own_keys", default: {}, null: false
      t.jsonb "left_alone", default: [], null: false
      t.jsonb "found"
      t.datetime "found_at", precision: nil
      t.datetime "seen_at", precision: nil
      t.jsonb "starts", default: [], null: false
      t.index "library_id, template, lower((name)::text)", name: "desks_named_once", unique: true
      t.index ["folder"], name: "index_desks_on_folder", unique: true
      t.index ["library_id"], name: "index_desks_on_library_id"
      t.index ["parent_id"], name: "index_desks_on_parent_id"
      t.index ["person_id"], name: "index_desks_on_person_id"
    end

    create_table "start_items" do |t|
      t.bigint "desk_id", null: false
      t.bigint "preset_id", null: false
      t.integer "position", null: false
      t.text "part", default: "startup", null: false
      t.index ["preset_id"], name: "index_start_items_on_preset_id"
      t.index ["desk_id", "preset_id"], name: "index_start_items_on_desk_id_and_preset_id", unique: true
      t.index ["desk_id"], name: "index_start_items_on_desk_id"
    end

    create_table "desk_plans" do |t|
      t.bigint "desk_id", null: false
      t.integer "number", null: false
      t.bigint "person_id"
      t.text "why", default: "", null: false
      t.jsonb "document", null: false
      t.jsonb "lines", default: [], null: false
      t.jsonb "keys", default: {}, null: false
      t.datetime "created_at", precision: nil, null: false
      t.index ["person_id"], name: "index_desk_plans_on_person_id"
      t.index ["desk_id", "number"], name: "index_desk_plans_on_desk_id_and_number", unique: true
      t.index ["desk_id"], name: "index_desk_plans_on_desk_id"
    end

    create_table "desk_plan_files", primary_key: ["desk_plan_id", "sum"] do |t|
      t.bigint "desk_plan_id", null: false
      t.text "sum", null: false
      t.index ["sum"], name: "desk_plan_files_by_sum"
    end

    create_table "desk_events" do |t|
      t.bigint "desk_id", null: false
      t.text "kind", null: false
      t.text "said", default: "", null: false
      t.bigint "person_id"
      t.datetime "created_at", precision: nil, null: false
      t.index ["person_id"], name: "index_desk_events_on_person_id"
      t.index ["desk_id", "id"], name: "index_desk_events_on_desk_id_and_id"
    end

    create_table "sent_files", primary_key: "sum", id: :text do |t|
      t.binary "bytes", null: false
    end

    create_table "spread_days", primary_key: ["library_id", "day"] do |t|
      t.bigint "library_id", null: false
      t.date "day", null: false
      t.integer "places", null: false
      t.integer "newest", null: false
    end
  end

  def down = raise(ActiveRecord::IrreversibleMigration)
end
