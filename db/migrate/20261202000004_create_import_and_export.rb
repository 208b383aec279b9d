# frozen_string_literal: true

# What comes in and what goes out.
class CreateImportAndExport < ActiveRecord::Migration[7.2]
  def up
    create_table "imports" do |t|
      t.bigint "library_id", null: false
      t.bigint "person_id"
      t.bigint "task_id"
      t.bigint "history_entry_id"
      t.string "name", null: false
      t.string "source", null: false
      t.string "state", default: "open", null: false
      t.jsonb "words", default: {}, null: false
      t.jsonb "choices", default: {}, null: false
      t.jsonb "report"
      t.datetime "applied_at"
      t.datetime "created_at", null: false
      t.datetime "updated_at", null: false
      t.string "watched"
      t.index ["history_entry_id"], name: "index_imports_on_history_entry_id"
      t.index ["library_id", "watched"], name: "index_imports_on_library_id_and_watched", where: "(watched IS NOT NULL)"
      t.index ["library_id"], name: "index_imports_on_library_id"
      t.index ["person_id"], name: "index_imports_on_person_id"
      t.index ["task_id"], name: "index_imports_on_task_id"
      t.check_constraint "state IN ('open', 'reading', 'planned', 'applying', 'applied', 'left')"
    end

    create_table "import_chunks" do |t|
      t.bigint "import_file_id", null: false
      t.integer "position", null: false
      t.binary "bytes", null: false
      t.index ["import_file_id"], name: "index_import_chunks_on_import_file_id"
    end

    create_table "import_files" do |t|
      t.bigint "import_id", null: false
      t.string "name", null: false
      t.bigint "size", default: 0, null: false
      t.index ["import_id"], name: "index_import_files_on_import_id"
    end

    create_table "import_items" do |t|
      t.bigint "import_id", null: false
      t.integer "position", null: false
      t.string "kind", null: false
      t.string "name", null: false
      t.string "source", null: false
      t.string "sentence", default: "", null: false
      t.integer "version", default: 1, null: false
      t.uuid "document_id"
      t.jsonb "document"
      t.string "fingerprint", limit: 64
      t.string "needs", default: [], null: false, array: true
      t.string "group"
      t.string "way"
      t.string "usual"
      t.jsonb "past"
      t.index ["import_id"], name: "index_import_items_on_import_id"
      t.index ["fingerprint"], name: "index_import_items_on_fingerprint"
    end

    create_table "import_parts" do |t|
      t.bigint "import_id", null: false
      t.string "sha256", limit: 64, null: false
      t.string "ext", null: false
      t.binary "bytes"
      t.index ["import_id", "sha256"], name: "index_import_parts_on_import_id_and_sha256", unique: true
      t.index ["import_id"], name: "index_import_parts_on_import_id"
      t.index ["sha256"], name: "index_import_parts_on_sha256"
    end

    create_table "exports" do |t|
      t.bigint "library_id", null: false
      t.bigint "person_id", null: false
      t.bigint "release_id"
      t.string "kind", null: false
      t.string "name", null: false
      t.string "file", null: false
      t.string "goes_to", null: false
      t.jsonb "wish", null: false
      t.integer "count", null: false
      t.bigint "size", null: false
      t.string "sha256", limit: 64, null: false
      t.datetime "created_at", null: false
      t.index ["library_id"], name: "index_exports_on_library_id"
      t.index ["person_id"], name: "index_exports_on_person_id"
      t.index ["release_id"], name: "index_exports_on_release_id"
    end

    create_table "export_pieces" do |t|
      t.bigint "export_id", null: false
      t.integer "position", null: false
      t.binary "bytes", null: false
      t.index ["export_id"], name: "index_export_pieces_on_export_id"
    end

    create_table "export_templates" do |t|
      t.bigint "library_id", null: false
      t.string "name", null: false, collation: "natural_order"
      t.string "scope", null: false
      t.string "file", null: false
      t.text "body", null: false
      t.datetime "created_at", null: false
      t.datetime "updated_at", null: false
      t.index "library_id, lower((name)::text)", name: "export_templates_one_of_a_name", unique: true
      t.index ["library_id"], name: "index_export_templates_on_library_id"
    end

    create_table "gallery_looks" do |t|
      t.bigint "person_id", null: false
      t.string "query", null: false
      t.string "candidate"
      t.jsonb "packages", default: [], null: false
      t.string "problem"
      t.datetime "silent_at"
      t.datetime "asked_at", null: false
      t.datetime "answered_at"
      t.index ["asked_at"], name: "index_gallery_looks_on_asked_at"
      t.index ["person_id"], name: "index_gallery_looks_on_person_id", unique: true
    end

    create_table "gallery_tokens" do |t|
      t.bigint "person_id", null: false
      t.string "token", null: false
      t.datetime "created_at", null: false
      t.datetime "updated_at", null: false
      t.index ["person_id"], name: "index_gallery_tokens_on_person_id", unique: true
    end

    # What is packed already is not packed again.
    execute "ALTER TABLE import_chunks ALTER COLUMN bytes SET STORAGE EXTERNAL"
    execute "ALTER TABLE import_parts ALTER COLUMN bytes SET STORAGE EXTERNAL"
    execute "ALTER TABLE export_pieces ALTER COLUMN bytes SET STORAGE EXTERNAL"
  end

  def down = raise(ActiveRecord::IrreversibleMigration)
end
