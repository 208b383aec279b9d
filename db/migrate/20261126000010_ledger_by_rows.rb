# frozen_string_literal: true

# The ledger keeps what a deed changed row by row, and by name what it touched. What was written down before in
# the terms of each deed is written anew once.
class LedgerByRows < ActiveRecord::Migration[7.2]
  def up
    add_column :ledger_entries, :touched, :text, array: true, null: false, default: []
    add_index :ledger_entries, :touched, using: :gin
    Fobrel::Models::LedgerEntry.reset_column_information
    Fobrel::Ledger::Earlier.rewrite
  end

  def down
    remove_column :ledger_entries, :touched
  end
end
