# frozen_string_literal: true

# The orders of the Wall, so that its first pages need no sorting; traits as one text to look in.
class IndexOrders < ActiveRecord::Migration[7.2]
  def change
    remove_index :presets, %i[library_id changed_at]
    remove_index :presets, %i[library_id name]
    add_index :presets, "library_id, changed_at DESC NULLS LAST, id", name: "presets_by_change"
    add_index :presets, %i[library_id name id], name: "presets_by_name"
    add_index :presets, %i[library_id size name id], name: "presets_by_size"
    add_column :presets, :trait_words, :text, null: false, default: ""
    reversible { |direction|
      direction.up {
        execute "UPDATE presets SET trait_words = array_to_string(traits, E'\n')"
      }
    }
  end
end
