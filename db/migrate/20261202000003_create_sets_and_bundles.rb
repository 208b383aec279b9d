# frozen_string_literal: true

# Sets, bundles with their releases, and libraries that follow them.
class CreateSetsAndBundles < ActiveRecord::Migration[7.2]
  def up
    create_table "brush_sets" do |t|
      t.bigint "library_id", null: false
      t.string "name", null: false, collation: "natural_order"
      t.datetime "created_at", null: false
      t.datetime "updated_at", null: false
      t.string "query"
      t.jsonb "pointers", default: {}, null: false
      t.index "library_id, lower((name)::text)", name: "index_brush_sets_on_library_id_lower_name", unique: true
      t.index ["library_id"], name: "index_brush_sets_on_library_id"
    end

    create_table "set_items" do |t|
      t.bigint "brush_set_id", null: false
      t.bigint "preset_id", null: false
      t.integer "position", null: false
      t.string "section"
      t.index ["brush_set_id", "preset_id"], name: "index_set_items_on_brush_set_id_and_preset_id", unique: true
      t.index ["brush_set_id"], name: "index_set_items_on_brush_set_id"
      t.index ["preset_id"], name: "index_set_items_on_preset_id"
    end

    create_table "bundles" do |t|
      t.bigint "library_id", null: false
      t.string "name", null: false, collation: "natural_order"
      t.string "description", default: "", null: false
      t.string "author", default: "", null: false
      t.string "licence", default: "", null: false
      t.bigint "cover_id"
      t.datetime "created_at", null: false
      t.datetime "updated_at", null: false
      t.string "picture"
      t.index "library_id, lower((name)::text)", name: "bundles_one_of_a_name", unique: true
      t.index ["cover_id"], name: "index_bundles_on_cover_id"
      t.index ["library_id"], name: "index_bundles_on_library_id"
    end

    create_table "bundle_items" do |t|
      t.bigint "bundle_id", null: false
      t.bigint "preset_id", null: false
      t.integer "position", null: false
      t.string "section"
      t.index ["bundle_id", "preset_id"], name: "index_bundle_items_on_bundle_id_and_preset_id", unique: true
      t.index ["bundle_id"], name: "index_bundle_items_on_bundle_id"
      t.index ["preset_id"], name: "index_bundle_items_on_preset_id"
    end

    create_table "releases" do |t|
      t.bigint "bundle_id", null: false
      t.string "number", null: false
      t.string "notes", default: "", null: false
      t.jsonb "items", null: false
      t.jsonb "words", null: false
      t.binary "package", null: false
      t.string "sha256", limit: 64, null: false
      t.bigint "person_id", null: false
      t.datetime "withdrawn_at"
      t.string "withdrawn_reason"
      t.datetime "created_at", null: false
      t.index ["bundle_id", "number"], name: "index_releases_on_bundle_id_and_number", unique: true
      t.index ["bundle_id"], name: "index_releases_on_bundle_id"
      t.index ["person_id"], name: "index_releases_on_person_id"
    end

    create_table "follows" do |t|
      t.bigint "library_id", null: false
      t.bigint "bundle_id", null: false
      t.bigint "release_id"
      t.bigint "earlier_id"
      t.boolean "stays", default: false, null: false
      t.bigint "person_id", null: false
      t.datetime "created_at", null: false
      t.datetime "updated_at", null: false
      t.index ["bundle_id"], name: "index_follows_on_bundle_id"
      t.index ["library_id", "bundle_id"], name: "index_follows_on_library_id_and_bundle_id", unique: true
      t.index ["library_id"], name: "index_follows_on_library_id"
    end

    create_table "follow_rights" do |t|
      t.bigint "publisher_id", null: false
      t.bigint "library_id", null: false
      t.text "state", null: false
      t.bigint "asked_by_id"
      t.bigint "decided_by_id"
      t.text "reason", default: "", null: false
      t.datetime "decided_at"
      t.datetime "created_at", null: false
      t.datetime "updated_at", null: false
      t.index ["library_id"], name: "index_follow_rights_on_library_id"
      t.index ["publisher_id", "library_id"], name: "index_follow_rights_on_publisher_id_and_library_id", unique: true
      t.index ["publisher_id"], name: "index_follow_rights_on_publisher_id"
      t.check_constraint "state IN ('asked', 'granted', 'refused', 'ended')"
    end

    create_table "followed_brushes" do |t|
      t.bigint "follow_id", null: false
      t.bigint "preset_id", null: false
      t.text "document_id", null: false
      t.jsonb "base", null: false
      t.text "fingerprint", null: false
      t.text "left_as"
      t.index ["follow_id", "document_id"], name: "index_followed_brushes_on_follow_id_and_document_id", unique: true
      t.index ["preset_id"], name: "index_followed_brushes_on_preset_id"
      t.check_constraint "left_as IN ('kept', 'hidden')"
    end

    # What is packed already is not packed again.
    execute "ALTER TABLE releases ALTER COLUMN package SET STORAGE EXTERNAL"
  end

  def down = raise(ActiveRecord::IrreversibleMigration)
end
