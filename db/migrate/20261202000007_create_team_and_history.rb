# frozen_string_literal: true

# What a team tells each other, and what was done.
class CreateTeamAndHistory < ActiveRecord::Migration[7.2]
  def up
    create_table "proposals" do |t|
      t.bigint "library_id", null: false
      t.bigint "person_id", null: false
      t.text "sentence", default: "", null: false
      t.datetime "withdrawn_at"
      t.datetime "created_at", null: false
      t.datetime "updated_at", null: false
      t.index ["library_id"], name: "index_proposals_on_library_id"
      t.index ["person_id"], name: "index_proposals_on_person_id"
    end

    create_table "proposal_items" do |t|
      t.bigint "proposal_id", null: false
      t.jsonb "document", null: false
      t.text "fingerprint", null: false
      t.jsonb "came_from", null: false
      t.text "state", default: "open", null: false
      t.text "reason"
      t.bigint "decided_by_id"
      t.datetime "decided_at"
      t.bigint "made_id"
      t.integer "version"
      t.index ["fingerprint"], name: "index_proposal_items_on_fingerprint"
      t.index ["proposal_id"], name: "index_proposal_items_on_proposal_id"
    end

    create_table "comments" do |t|
      t.bigint "library_id", null: false
      t.bigint "person_id", null: false
      t.text "about", null: false
      t.bigint "about_id", null: false
      t.integer "version"
      t.float "x"
      t.float "y"
      t.text "text", null: false
      t.datetime "created_at", null: false
      t.index ["about", "about_id", "id"], name: "index_comments_on_about_and_about_id_and_id"
      t.index ["library_id"], name: "index_comments_on_library_id"
      t.index ["person_id"], name: "index_comments_on_person_id"
    end

    create_table "notices" do |t|
      t.bigint "person_id", null: false
      t.bigint "library_id", null: false
      t.text "kind", null: false
      t.text "text", null: false
      t.text "path", null: false
      t.datetime "created_at", null: false
      t.datetime "seen_at"
      t.index ["person_id", "id"], name: "index_notices_on_person_id_and_id"
      t.index ["person_id"], name: "notices_unseen", where: "(seen_at IS NULL)"
    end

    create_table "history_entries" do |t|
      t.bigint "library_id"
      t.bigint "person_id", null: false
      t.string "kind", null: false
      t.string "summary", null: false
      t.jsonb "undo", default: {}, null: false
      t.datetime "undone_at"
      t.datetime "created_at", null: false
      t.text "touched", default: [], null: false, array: true
      t.string "via", default: "page", null: false
      t.text "about", default: [], null: false, array: true
      t.bigint "place", null: false
      t.string "changes_sum", limit: 64
      t.string "sum", limit: 64, null: false
      t.index "COALESCE(library_id, (0)::bigint), place", name: "history_entries_by_place", unique: true
      t.index ["about"], name: "index_history_entries_on_about", using: :gin
      t.index ["created_at"], name: "index_history_entries_on_created_at"
      t.index ["library_id"], name: "index_history_entries_on_library_id"
      t.index ["person_id"], name: "index_history_entries_on_person_id"
      t.index ["touched"], name: "index_history_entries_on_touched", using: :gin
    end
  end

  def down = raise(ActiveRecord::IrreversibleMigration)
end
