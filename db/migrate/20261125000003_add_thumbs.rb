# frozen_string_literal: true

# A strip brought down to a few hundred bytes, to tell likely doubles from unlikely ones quickly.
class AddThumbs < ActiveRecord::Migration[7.2]
  def change
    add_column :strips, :thumb, :binary
  end
end
