# frozen_string_literal: true

# Without these, each edition that is taken away is looked for in all presets.
class IndexEditionsOfPresets < ActiveRecord::Migration[7.2]
  def change
    add_index :presets, :current_edition_id
    add_index :presets, :home_edition_id
  end
end
