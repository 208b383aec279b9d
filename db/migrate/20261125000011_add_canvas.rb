# frozen_string_literal: true

# The canvas a studio paints on, which a preflight holds sizes against.
class AddCanvas < ActiveRecord::Migration[7.2]
  def change
    add_column :libraries, :canvas_width, :integer, null: false, default: 1920
    add_column :libraries, :canvas_height, :integer, null: false, default: 1080
  end
end
