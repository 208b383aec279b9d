# frozen_string_literal: true

# Parts of an author's or a licence's name are looked for in a library of many brushes. Saving an edition takes no
# longer that could be measured: both are short, and few.
class IndexAuthors < ActiveRecord::Migration[7.2]
  def change
    %i[author licence].each do |column|
      add_index :presets, column, using: :gin, opclass: :gin_trgm_ops, name: "presets_by_part_of_#{column}"
    end
    remove_index :presets, :library_id, name: "index_presets_on_library_id"
  end
end
