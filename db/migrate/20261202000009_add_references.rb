# frozen_string_literal: true

# Which rows need which others. Brushes and their versions refer to each other, so these come last.
class AddReferences < ActiveRecord::Migration[7.2]
  def change
    add_foreign_key "access_tokens", "libraries"
    add_foreign_key "access_tokens", "people"
    add_foreign_key "access_tokens", "desks", on_delete: :cascade
    add_foreign_key "import_chunks", "import_files", on_delete: :cascade
    add_foreign_key "import_files", "imports", on_delete: :cascade
    add_foreign_key "import_items", "imports", on_delete: :cascade
    add_foreign_key "import_parts", "imports", on_delete: :cascade
    add_foreign_key "imports", "history_entries"
    add_foreign_key "imports", "libraries"
    add_foreign_key "imports", "people"
    add_foreign_key "imports", "tasks"
    add_foreign_key "brush_sets", "libraries"
    add_foreign_key "bundle_items", "bundles"
    add_foreign_key "bundle_items", "presets"
    add_foreign_key "bundles", "libraries"
    add_foreign_key "bundles", "presets", column: "cover_id"
    add_foreign_key "cleanings", "people"
    add_foreign_key "comments", "libraries"
    add_foreign_key "comments", "people"
    add_foreign_key "drafts", "versions", column: "base_version_id"
    add_foreign_key "drafts", "people"
    add_foreign_key "drafts", "presets"
    add_foreign_key "version_names", "versions"
    add_foreign_key "version_needs", "assets", column: "sha256", primary_key: "sha256"
    add_foreign_key "version_needs", "versions"
    add_foreign_key "versions", "people"
    add_foreign_key "versions", "presets"
    add_foreign_key "export_pieces", "exports", on_delete: :cascade
    add_foreign_key "exports", "libraries"
    add_foreign_key "exports", "people"
    add_foreign_key "exports", "releases"
    add_foreign_key "categories", "categories", column: "parent_id"
    add_foreign_key "categories", "libraries"
    add_foreign_key "favourites", "people"
    add_foreign_key "favourites", "presets"
    add_foreign_key "follow_rights", "libraries"
    add_foreign_key "follow_rights", "libraries", column: "publisher_id"
    add_foreign_key "follow_rights", "people", column: "asked_by_id"
    add_foreign_key "follow_rights", "people", column: "decided_by_id"
    add_foreign_key "followed_brushes", "follows", on_delete: :cascade
    add_foreign_key "followed_brushes", "presets", on_delete: :cascade
    add_foreign_key "follows", "bundles"
    add_foreign_key "follows", "libraries"
    add_foreign_key "follows", "people"
    add_foreign_key "follows", "releases"
    add_foreign_key "follows", "releases", column: "earlier_id"
    add_foreign_key "gallery_looks", "people"
    add_foreign_key "gallery_tokens", "people"
    add_foreign_key "adjustments", "people"
    add_foreign_key "baselines", "versions"
    add_foreign_key "baselines", "people"
    add_foreign_key "baselines", "presets"
    add_foreign_key "invitations", "libraries"
    add_foreign_key "invitations", "people"
    add_foreign_key "invitations", "people", column: "used_by_id"
    add_foreign_key "statuses", "libraries"
    add_foreign_key "history_entries", "libraries"
    add_foreign_key "history_entries", "people"
    add_foreign_key "libraries", "people"
    add_foreign_key "memberships", "libraries"
    add_foreign_key "memberships", "people"
    add_foreign_key "notices", "libraries"
    add_foreign_key "notices", "people"
    add_foreign_key "proposal_items", "proposals", on_delete: :cascade
    add_foreign_key "proposal_items", "people", column: "decided_by_id"
    add_foreign_key "proposals", "libraries"
    add_foreign_key "proposals", "people"
    add_foreign_key "parts", "libraries"
    add_foreign_key "parts", "people"
    add_foreign_key "presences", "people", name: "presences_person_id_fkey", on_delete: :cascade
    add_foreign_key "presences", "presets", name: "presences_preset_id_fkey", on_delete: :cascade
    add_foreign_key "presets", "versions", column: "current_version_id", deferrable: :deferred
    add_foreign_key "presets", "versions", column: "baseline_version_id", deferrable: :deferred
    add_foreign_key "presets", "categories"
    add_foreign_key "presets", "statuses"
    add_foreign_key "presets", "libraries"
    add_foreign_key "presets", "people", column: "hidden_by_id"
    add_foreign_key "presets", "people", column: "locked_by_id"
    add_foreign_key "recents", "people"
    add_foreign_key "recents", "presets"
    add_foreign_key "export_templates", "libraries"
    add_foreign_key "releases", "bundles"
    add_foreign_key "releases", "people"
    add_foreign_key "replies", "people"
    add_foreign_key "desk_events", "people", on_delete: :nullify
    add_foreign_key "desk_events", "desks", on_delete: :cascade
    add_foreign_key "desk_plan_files", "desk_plans", name: "desk_plan_files_desk_plan_id_fkey", on_delete: :cascade
    add_foreign_key "desk_plans", "people", on_delete: :nullify
    add_foreign_key "desk_plans", "desks", on_delete: :cascade
    add_foreign_key "desks", "libraries"
    add_foreign_key "desks", "people", on_delete: :nullify
    add_foreign_key "desks", "desks", column: "parent_id", on_delete: :nullify
    add_foreign_key "set_items", "brush_sets"
    add_foreign_key "set_items", "presets"
    add_foreign_key "sign_ins", "people"
    add_foreign_key "spread_days", "libraries", name: "spread_days_library_id_fkey", on_delete: :cascade
    add_foreign_key "start_items", "presets"
    add_foreign_key "start_items", "desks"
    add_foreign_key "studio_backups", "people"
    add_foreign_key "tag_synonyms", "libraries"
    add_foreign_key "tag_synonyms", "tags"
    add_foreign_key "taggings", "presets"
    add_foreign_key "taggings", "tags"
    add_foreign_key "tags", "libraries"
    add_foreign_key "tasks", "libraries"
    add_foreign_key "tasks", "people"
    add_foreign_key "sample_strokes", "people"
    add_foreign_key "tuning_steps", "tunings", on_delete: :cascade
    add_foreign_key "tunings", "people"
    add_foreign_key "tunings", "presets"
    add_foreign_key "work_pages", "works", on_delete: :cascade
    add_foreign_key "work_steps", "works", on_delete: :cascade
    add_foreign_key "works", "libraries"
    add_foreign_key "works", "people"
  end
end
