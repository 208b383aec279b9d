# frozen_string_literal: true

# How often a piece of work was begun: one that ends its process every time is put aside.
class CountTries < ActiveRecord::Migration[7.2]
  def change = add_column(:tasks, :tries, :integer, null: false, default: 0)
end
