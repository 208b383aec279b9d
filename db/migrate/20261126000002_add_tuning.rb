# frozen_string_literal: true

# The steps in which a person tuned a brush, to go back and forth in; where a brush came from; the
# answers to requests that may be asked again.
class AddTuning < ActiveRecord::Migration[7.2]
  def change
    create_table :tunings do |t|
      t.references :person, null: false, foreign_key: true
      t.references :preset, null: false, foreign_key: true
      # The number of the step that is on the Bench now.
      t.integer :place, null: false, default: 0
      t.index %i[person_id preset_id], unique: true
    end
    create_table :tuning_steps do |t|
      t.references :tuning, null: false, foreign_key: {on_delete: :cascade}
      t.integer :number, null: false
      t.jsonb :document, null: false
      t.index %i[tuning_id number], unique: true
    end
    add_origin
    reversible { |direction| direction.up { say_blends_in_words } }
    create_table :replies do |t|
      t.references :person, null: false, foreign_key: true
      t.string :key, null: false
      t.string :asked, null: false
      t.integer :status
      t.binary :body
      t.datetime :created_at, null: false, index: true
      t.index %i[person_id key], unique: true
    end
  end

  private

  BLENDS = {
    "color-dodge" => "colour dodge",
    "color-burn" => "colour burn",
    "hard-light" => "hard light",
    "soft-light" => "soft light",
    "color" => "colour"
  }.freeze

  def say_blends_in_words
    BLENDS.each do |was, now|
      execute <<~SQL
        UPDATE presets SET
          traits = array_replace(traits, '#{was}', '#{now}'),
          trait_words = array_to_string(array_replace(traits, '#{was}', '#{now}'), E'\\n')
        WHERE '#{was}' = ANY (traits)
      SQL
    end
  end

  def add_origin
    add_column :presets, :origin, :string, null: false, default: "made"
    add_check_constraint :presets, "origin IN ('made', 'received')", name: "presets_origin"
    reversible do |direction|
      direction.up do
        execute <<~SQL
          UPDATE presets SET origin = 'received' WHERE
            (SELECT note FROM editions WHERE preset_id = presets.id ORDER BY number LIMIT 1) LIKE 'Received%'
        SQL
      end
    end
  end
end
