# frozen_string_literal: true

# Brushes with their versions, and how they are found: categories, statuses, tags, what was used of late.
class CreateBrushes < ActiveRecord::Migration[7.2]
  def up
    create_table "presets" do |t|
      t.bigint "library_id", null: false
      t.uuid "document_id", null: false
      t.string "name", null: false, collation: "natural_order"
      t.bigint "current_version_id"
      t.bigint "baseline_version_id"
      t.datetime "created_at", null: false
      t.datetime "updated_at", null: false
      t.bigint "locked_by_id"
      t.bigint "category_id"
      t.bigint "status_id"
      t.datetime "hidden_at"
      t.bigint "hidden_by_id"
      t.text "words", default: "", null: false
      t.text "plain_name", default: "", null: false
      t.string "traits", default: [], null: false, array: true
      t.float "size", default: 0.0, null: false
      t.string "author", default: "", null: false
      t.string "licence", default: "", null: false
      t.string "notes", default: "", null: false
      t.string "fingerprint", limit: 64
      t.boolean "altered", default: false, null: false
      t.float "hue"
      t.datetime "changed_at"
      t.text "trait_words", default: "", null: false
      t.string "origin", default: "made", null: false
      t.text "picture"
      t.jsonb "came_from"
      t.virtual "stems", type: :tsvector, as: "to_tsvector('english'::regconfig, words)", stored: true
      t.index "(((came_from ->> 'preset'::text))::bigint)", name: "presets_by_origin", where: "(came_from IS NOT NULL)"
      t.index ["author"], name: "presets_by_part_of_author", opclass: :gin_trgm_ops, using: :gin
      t.index ["current_version_id"], name: "index_presets_on_current_version_id"
      t.index ["category_id"], name: "index_presets_on_category_id"
      t.index ["fingerprint"], name: "index_presets_on_fingerprint"
      t.index ["hidden_by_id"], name: "index_presets_on_hidden_by_id"
      t.index ["baseline_version_id"], name: "index_presets_on_baseline_version_id"
      t.index ["status_id"], name: "index_presets_on_status_id"
      t.index ["library_id", "changed_at", "id"],
        name: "presets_by_change",
        order: {changed_at: "DESC NULLS LAST"},
        where: "(hidden_at IS NULL)"
      t.index ["library_id", "document_id"], name: "index_presets_on_library_id_and_document_id", unique: true
      t.index ["library_id", "name", "id"], name: "presets_by_name", where: "(hidden_at IS NULL)"
      t.index ["library_id", "size", "name", "id"], name: "presets_by_size", where: "(hidden_at IS NULL)"
      t.index ["licence"], name: "presets_by_part_of_licence", opclass: :gin_trgm_ops, using: :gin
      t.index ["locked_by_id"], name: "index_presets_on_locked_by_id"
      t.index ["plain_name"], name: "index_presets_on_plain_name", opclass: :gin_trgm_ops, using: :gin
      t.index ["stems"], name: "index_presets_on_stems", using: :gin
      t.index ["traits"], name: "index_presets_on_traits", using: :gin
      t.index ["words"], name: "index_presets_on_words", opclass: :gin_trgm_ops, using: :gin
      t.check_constraint "origin IN ('made', 'received')", name: "presets_origin"
    end

    create_table "versions" do |t|
      t.bigint "preset_id", null: false
      t.integer "number", null: false
      t.jsonb "document", null: false
      t.string "fingerprint", limit: 64, null: false
      t.string "note", default: "", null: false
      t.bigint "person_id"
      t.datetime "created_at", null: false
      t.index ["fingerprint"], name: "index_versions_on_fingerprint"
      t.index ["person_id"], name: "index_versions_on_person_id"
      t.index ["preset_id", "number"], name: "index_versions_on_preset_id_and_number", unique: true
      t.index ["preset_id"], name: "index_versions_on_preset_id"
    end

    create_table "version_names" do |t|
      t.bigint "version_id", null: false
      t.string "name", null: false
      t.index ["version_id"], name: "index_version_names_on_version_id", unique: true
    end

    create_table "version_needs", id: false do |t|
      t.bigint "version_id", null: false
      t.string "sha256", limit: 64, null: false
      t.index ["version_id", "sha256"], name: "index_version_needs_on_version_id_and_sha256", unique: true
      t.index ["version_id"], name: "index_version_needs_on_version_id"
      t.index ["sha256"], name: "index_version_needs_on_sha256"
    end

    create_table "baselines" do |t|
      t.bigint "preset_id", null: false
      t.bigint "version_id", null: false
      t.bigint "person_id", null: false
      t.datetime "created_at", null: false
      t.index ["version_id"], name: "index_homes_on_version_id"
      t.index ["person_id"], name: "index_homes_on_person_id"
      t.index ["preset_id"], name: "index_homes_on_preset_id"
    end

    create_table "drafts" do |t|
      t.bigint "person_id", null: false
      t.bigint "preset_id", null: false
      t.bigint "base_version_id", null: false
      t.jsonb "document", null: false
      t.string "fingerprint", limit: 64, null: false
      t.datetime "created_at", null: false
      t.datetime "updated_at", null: false
      t.index ["base_version_id"], name: "index_drafts_on_base_version_id"
      t.index ["fingerprint"], name: "index_drafts_on_fingerprint"
      t.index ["person_id", "preset_id"], name: "index_drafts_on_person_id_and_preset_id", unique: true
      t.index ["person_id"], name: "index_drafts_on_person_id"
      t.index ["preset_id"], name: "index_drafts_on_preset_id"
    end

    create_table "assets", primary_key: "sha256", id: {type: :string, limit: 64} do |t|
      t.string "ext", null: false
      t.binary "bytes", null: false
      t.datetime "created_at", null: false
      t.jsonb "facts"
    end

    create_table "parts" do |t|
      t.bigint "library_id", null: false
      t.bigint "person_id"
      t.text "kind", null: false
      t.text "name", null: false
      t.text "tags", default: [], null: false, array: true
      t.text "sha256", null: false
      t.text "ext", default: "png", null: false
      t.jsonb "made"
      t.datetime "hidden_at"
      t.datetime "created_at", null: false
      t.datetime "updated_at", null: false
      t.index ["library_id", "sha256"], name: "index_parts_on_library_id_and_sha256"
      t.index ["library_id"], name: "index_parts_on_library_id"
      t.index ["person_id"], name: "index_parts_on_person_id"
    end

    create_table "categories" do |t|
      t.bigint "library_id", null: false
      t.bigint "parent_id"
      t.string "name", null: false, collation: "natural_order"
      t.integer "position", default: 0, null: false
      t.index "library_id, COALESCE(parent_id, (0)::bigint), lower((name)::text)",
        name: "categories_one_of_a_name",
        unique: true
      t.index ["library_id"], name: "index_categories_on_library_id"
      t.index ["parent_id"], name: "index_categories_on_parent_id"
    end

    create_table "statuses" do |t|
      t.bigint "library_id", null: false
      t.string "name", null: false, collation: "natural_order"
      t.string "colour", null: false
      t.string "shape", null: false
      t.integer "position", default: 0, null: false
      t.index "library_id, lower((name)::text)", name: "labels_one_of_a_name", unique: true
      t.index ["library_id"], name: "index_statuses_on_library_id"
    end

    create_table "tags" do |t|
      t.bigint "library_id", null: false
      t.string "name", null: false, collation: "natural_order"
      t.string "colour", null: false
      t.string "shape", null: false
      t.index "library_id, lower((name)::text)", name: "index_tags_on_library_id_lower_name", unique: true
      t.index ["library_id"], name: "index_tags_on_library_id"
    end

    create_table "tag_synonyms" do |t|
      t.bigint "tag_id", null: false
      t.bigint "library_id", null: false
      t.string "name", null: false
      t.index "library_id, lower((name)::text)", name: "tag_synonyms_one_of_a_name", unique: true
      t.index ["library_id"], name: "index_tag_synonyms_on_library_id"
      t.index ["tag_id"], name: "index_tag_synonyms_on_tag_id"
    end

    create_table "taggings" do |t|
      t.bigint "tag_id", null: false
      t.bigint "preset_id", null: false
      t.index ["preset_id"], name: "index_taggings_on_preset_id"
      t.index ["tag_id", "preset_id"], name: "index_taggings_on_tag_id_and_preset_id", unique: true
      t.index ["tag_id"], name: "index_taggings_on_tag_id"
    end

    create_table "favourites" do |t|
      t.bigint "person_id", null: false
      t.bigint "preset_id", null: false
      t.datetime "created_at", null: false
      t.index ["person_id", "preset_id"], name: "index_favourites_on_person_id_and_preset_id", unique: true
      t.index ["person_id"], name: "index_favourites_on_person_id"
      t.index ["preset_id"], name: "index_favourites_on_preset_id"
    end

    create_table "recents" do |t|
      t.bigint "person_id", null: false
      t.bigint "preset_id", null: false
      t.datetime "used_at", null: false
      t.index ["person_id", "preset_id"], name: "index_recents_on_person_id_and_preset_id", unique: true
      t.index ["person_id"], name: "index_recents_on_person_id"
      t.index ["preset_id"], name: "index_recents_on_preset_id"
    end

    create_table "tunings" do |t|
      t.bigint "person_id", null: false
      t.bigint "preset_id", null: false
      t.integer "place", default: 0, null: false
      t.index ["person_id", "preset_id"], name: "index_tunings_on_person_id_and_preset_id", unique: true
      t.index ["person_id"], name: "index_tunings_on_person_id"
      t.index ["preset_id"], name: "index_tunings_on_preset_id"
    end

    create_table "tuning_steps" do |t|
      t.bigint "tuning_id", null: false
      t.integer "number", null: false
      t.jsonb "document", null: false
      t.index ["tuning_id", "number"], name: "index_tuning_steps_on_tuning_id_and_number", unique: true
      t.index ["tuning_id"], name: "index_tuning_steps_on_tuning_id"
    end

    create_table "sample_strokes" do |t|
      t.bigint "person_id", null: false
      t.string "name", null: false, collation: "natural_order"
      t.integer "width", null: false
      t.integer "height", null: false
      t.jsonb "samples", null: false
      t.datetime "created_at", null: false
      t.index "person_id, lower((name)::text)", name: "index_sample_strokes_on_person_id_lower_name", unique: true
      t.index ["person_id"], name: "index_sample_strokes_on_person_id"
    end

    create_table "strips" do |t|
      t.string "fingerprint", limit: 64, null: false
      t.string "shape", null: false
      t.integer "version", null: false
      t.binary "png", null: false
      t.bigint "hash64"
      t.binary "thumb"
      t.index ["fingerprint", "shape", "version"],
        name: "index_strips_on_fingerprint_and_shape_and_version",
        unique: true
    end

    create_table "likenesses" do |t|
      t.string "one", limit: 64, null: false
      t.string "other", limit: 64, null: false
      t.integer "version", null: false
      t.float "alike", null: false
      t.index ["one", "other", "version"], name: "index_likenesses_on_one_and_other_and_version", unique: true
    end

    # What is packed already is not packed again.
    execute "ALTER TABLE assets ALTER COLUMN bytes SET STORAGE EXTERNAL"
    execute "ALTER TABLE strips ALTER COLUMN png SET STORAGE EXTERNAL"
  end

  def down = raise(ActiveRecord::IrreversibleMigration)
end
