# frozen_string_literal: true

# A file in a watched folder that was taken but cannot be moved away is not taken again.
class RememberWatchedFiles < ActiveRecord::Migration[7.2]
  def change
    add_column :arrivals, :watched, :string
    add_index :arrivals, %i[library_id watched], where: "watched IS NOT NULL"
  end
end
