# frozen_string_literal: true

# Mistyped words are looked up among names by their trigrams.
class AddNameIndex < ActiveRecord::Migration[7.2]
  def change
    add_index :presets, :plain_name, using: :gin, opclass: :gin_trgm_ops
    add_index :presets, %i[library_id changed_at]
  end
end
