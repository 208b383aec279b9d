# frozen_string_literal: true

# What the server keeps for itself: long work, limits, backups.
class CreateServices < ActiveRecord::Migration[7.2]
  def up
    Que.migrate!(version: Que::Migrations::CURRENT_VERSION)

    create_table "tasks" do |t|
      t.bigint "library_id", null: false
      t.bigint "person_id"
      t.string "kind", null: false
      t.string "state", default: "waiting", null: false
      t.jsonb "about", default: {}, null: false
      t.bigint "done", default: 0, null: false
      t.bigint "total", default: 0, null: false
      t.string "message", default: "", null: false
      t.datetime "created_at", null: false
      t.datetime "updated_at", null: false
      t.integer "tries", default: 0, null: false
      t.index ["library_id"], name: "index_tasks_on_library_id"
      t.index ["person_id"], name: "index_tasks_on_person_id"
      t.check_constraint "state IN ('waiting', 'working', 'done', 'failed')"
    end

    create_table "replies" do |t|
      t.bigint "person_id", null: false
      t.string "key", null: false
      t.string "asked", null: false
      t.integer "status"
      t.binary "body"
      t.datetime "created_at", null: false
      t.index ["created_at"], name: "index_replies_on_created_at"
      t.index ["person_id", "key"], name: "index_replies_on_person_id_and_key", unique: true
      t.index ["person_id"], name: "index_replies_on_person_id"
    end

    create_table "pulses" do |t|
      t.integer "pid", null: false
      t.string "host", null: false
      t.string "kind", null: false
      t.jsonb "said", default: {}, null: false
      t.datetime "seen_at", null: false
      t.index ["host", "pid"], name: "index_pulses_on_host_and_pid", unique: true
    end

    create_table "tries", primary_key: "key", id: :string do |t|
      t.integer "count", default: 0, null: false
      t.timestamptz "ends_at", null: false
    end

    create_table "cleanings" do |t|
      t.bigint "person_id"
      t.date "night"
      t.jsonb "took", default: {}, null: false
      t.bigint "before"
      t.bigint "after"
      t.datetime "ended_at"
      t.datetime "created_at", null: false
      t.index ["night"], name: "index_cleanings_on_night", unique: true
      t.index ["person_id"], name: "index_cleanings_on_person_id"
    end

    create_table "studio_backups" do |t|
      t.bigint "person_id"
      t.string "file", null: false
      t.string "problem"
      t.bigint "size"
      t.bigint "rows"
      t.bigint "pictures"
      t.string "test_problem"
      t.datetime "made_at"
      t.datetime "tried_at"
      t.datetime "ended_at"
      t.datetime "created_at", null: false
      t.index "((ended_at IS NULL))", name: "one_studio_backup", unique: true, where: "(ended_at IS NULL)"
      t.index ["person_id"], name: "index_studio_backups_on_person_id"
    end

    create_table "brush_changes", id: false do |t|
      t.bigint "library_id", null: false
      t.bigint "txid", default: -> { "txid_current()" }, null: false
      t.bigint "preset_ids", array: true
      t.index ["library_id", "txid"], name: "index_brush_changes_on_library_id_and_txid", unique: true
    end
  end

  def down = raise(ActiveRecord::IrreversibleMigration)
end
