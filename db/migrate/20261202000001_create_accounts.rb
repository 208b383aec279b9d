# frozen_string_literal: true

# Who may sign in, and what of that person is kept.
class CreateAccounts < ActiveRecord::Migration[7.2]
  def up
    execute "CREATE COLLATION natural_order (provider = icu, locale = 'und-u-kn-true')"
    enable_extension "pg_trgm"

    create_table "people" do |t|
      t.string "name", null: false
      t.string "login", null: false
      t.string "password_digest", null: false
      t.datetime "created_at", null: false
      t.datetime "updated_at", null: false
      t.boolean "owner", default: false, null: false
      t.datetime "closed_at"
      t.text "notices_off", default: [], null: false, array: true
      t.text "hints", default: [], null: false, array: true
      t.index ["login"], name: "index_people_on_login", unique: true
    end

    create_table "sign_ins" do |t|
      t.bigint "person_id", null: false
      t.text "digest", null: false
      t.text "address", null: false
      t.text "agent", null: false
      t.datetime "created_at", null: false
      t.datetime "seen_at", null: false
      t.datetime "ended_at"
      t.index ["digest"], name: "index_sign_ins_on_digest", unique: true
      t.index ["person_id"], name: "index_sign_ins_on_person_id"
    end

    create_table "access_tokens" do |t|
      t.bigint "person_id", null: false
      t.string "name", null: false
      t.string "digest", limit: 64, null: false
      t.datetime "last_used_at"
      t.datetime "created_at", null: false
      t.text "scope", default: "write", null: false
      t.bigint "library_id"
      t.bigint "desk_id"
      t.datetime "ends_at"
      t.index ["digest"], name: "index_access_tokens_on_digest", unique: true
      t.index ["person_id"], name: "index_access_tokens_on_person_id"
    end

    create_table "libraries" do |t|
      t.string "name", null: false, collation: "natural_order"
      t.datetime "created_at", null: false
      t.datetime "updated_at", null: false
      t.integer "canvas_width", default: 1920, null: false
      t.integer "canvas_height", default: 1080, null: false
      t.jsonb "storage", default: {}, null: false
      t.text "kind", default: "project", null: false
      t.text "description", default: "", null: false
      t.datetime "archived_at"
      t.bigint "person_id"
      t.jsonb "reserved_keys", default: {}, null: false
      t.index ["person_id"], name: "index_libraries_on_person_id", unique: true
    end

    create_table "memberships" do |t|
      t.bigint "person_id", null: false
      t.bigint "library_id", null: false
      t.string "role", null: false
      t.index ["library_id"], name: "index_memberships_on_library_id"
      t.index ["person_id", "library_id"], name: "index_memberships_on_person_id_and_library_id", unique: true
      t.index ["person_id"], name: "index_memberships_on_person_id"
      t.check_constraint "role IN ('guest', 'artist', 'lead')"
    end

    create_table "invitations" do |t|
      t.bigint "library_id", null: false
      t.bigint "person_id", null: false
      t.text "role", null: false
      t.text "name", default: "", null: false
      t.text "digest", null: false
      t.datetime "ends_at", null: false
      t.bigint "used_by_id"
      t.datetime "created_at", null: false
      t.index ["digest"], name: "index_invitations_on_digest", unique: true
      t.index ["library_id"], name: "index_invitations_on_library_id"
      t.index ["person_id"], name: "index_invitations_on_person_id"
    end

    create_table "adjustments" do |t|
      t.bigint "person_id", null: false
      t.jsonb "settings", null: false
      t.datetime "created_at", null: false
      t.datetime "updated_at", null: false
      t.index ["person_id"], name: "index_adjustments_on_person_id", unique: true
    end

    create_table "presences", primary_key: ["preset_id", "person_id"] do |t|
      t.bigint "preset_id", null: false
      t.bigint "person_id", null: false
      t.datetime "seen_at", precision: nil, null: false
    end

    # Who is where is of the moment: it need not survive a power cut.
    execute "ALTER TABLE presences SET UNLOGGED"
  end

  def down = raise(ActiveRecord::IrreversibleMigration)
end
