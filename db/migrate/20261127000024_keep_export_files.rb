# frozen_string_literal: true

# The file of an export that took long waits here for whoever asked for it.
class KeepExportFiles < ActiveRecord::Migration[7.2]
  def change
    create_table :export_pieces do |t|
      t.references :export, null: false, foreign_key: {on_delete: :cascade}
      t.integer :position, null: false
      t.binary :bytes, null: false
    end
    reversible { |way| way.up { execute "ALTER TABLE export_pieces ALTER COLUMN bytes SET STORAGE EXTERNAL" } }
  end
end
