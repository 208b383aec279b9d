# frozen_string_literal: true

# Seats with a person, a platform and limits; templates; plans that are kept as they were handed out; what was found in
# the folders, and how each seat came along.
class AddStartPlans < ActiveRecord::Migration[7.2]
  def up
    name_once
    change_table :seats do |t|
      t.boolean :template, null: false, default: false
      t.references :parent, foreign_key: {to_table: :seats, on_delete: :nullify}
      t.references :person, foreign_key: {on_delete: :nullify}
      t.text :platform, null: false, default: ""
      t.text :room, null: false, default: ""
      t.integer :canvas_width
      t.integer :canvas_height
      t.integer :key_count, null: false, default: 10
      t.integer :memory_limit
      t.integer :start_limit
      t.boolean :away, null: false, default: false
      t.timestamp :put_aside_at
      t.jsonb :plan_changes, null: false, default: []
      t.jsonb :own_keys, null: false, default: {}
      t.jsonb :left_alone, null: false, default: []
      t.jsonb :found
      t.timestamp :found_at
      t.timestamp :seen_at
      t.jsonb :starts, null: false, default: []
    end
    execute "CREATE UNIQUE INDEX seats_named_once ON seats (library_id, template, lower(name))"
    add_column :start_items, :part, :text, null: false, default: "startup"
    execute <<~SQL
      UPDATE seats SET plan_changes = coalesce((
        SELECT jsonb_agg(jsonb_build_object(
          'put', jsonb_build_object('thing', 'brush/' || q.document_id, 'part', 'startup'),
          'after', q.before) ORDER BY q.position)
        FROM (SELECT p.document_id, i.position,
            lag('brush/' || p.document_id) OVER (ORDER BY i.position) AS before
          FROM start_items i JOIN presets p ON p.id = i.preset_id WHERE i.seat_id = seats.id) q), '[]')
    SQL
    create_table :seat_plans do |t|
      t.references :seat, null: false, foreign_key: {on_delete: :cascade}
      t.integer :number, null: false
      t.references :person, foreign_key: {on_delete: :nullify}
      t.text :why, null: false, default: ""
      t.jsonb :document, null: false
      t.jsonb :lines, null: false, default: []
      t.jsonb :keys, null: false, default: {}
      t.timestamp :created_at, null: false
      t.index %i[seat_id number], unique: true
    end
    create_table :seat_events do |t|
      t.references :seat, null: false, foreign_key: {on_delete: :cascade}, index: false
      t.text :kind, null: false
      t.text :said, null: false, default: ""
      t.references :person, foreign_key: {on_delete: :nullify}
      t.timestamp :created_at, null: false
      t.index %i[seat_id id]
    end
    execute "CREATE TABLE handed_files (sum text PRIMARY KEY, bytes bytea NOT NULL)"
    execute <<~SQL
      CREATE TABLE seat_plan_files (
        seat_plan_id bigint NOT NULL REFERENCES seat_plans ON DELETE CASCADE, sum text NOT NULL,
        PRIMARY KEY (seat_plan_id, sum));
      CREATE INDEX seat_plan_files_by_sum ON seat_plan_files (sum);
    SQL
    add_column :libraries, :reserved_keys, :jsonb, null: false, default: {}
  end

  def down
    drop_table :seat_plan_files
    drop_table :handed_files
    drop_table :seat_events
    drop_table :seat_plans
    remove_column :libraries, :reserved_keys
    remove_column :start_items, :part
    execute "DROP INDEX seats_named_once"
    %i[parent person].each { |name| remove_reference :seats, name }
    remove_columns :seats,
      :template,
      :platform,
      :room,
      :canvas_width,
      :canvas_height,
      :key_count,
      :memory_limit,
      :start_limit,
      :away,
      :put_aside_at,
      :plan_changes,
      :own_keys,
      :left_alone,
      :found,
      :found_at,
      :seen_at,
      :starts
  end

  private

  # Two seats could have one name: the later ones are told apart from now on.
  def name_once
    execute <<~SQL
      UPDATE seats SET name = left(name, 50) || ' (' || q.place || ')'
      FROM (SELECT id, row_number() OVER (PARTITION BY library_id, lower(name) ORDER BY id) AS place FROM seats) q
      WHERE q.id = seats.id AND q.place > 1
    SQL
  end
end
