# frozen_string_literal: true

# What a backup says of a brush beside its settings: earlier editions, family, label, home.
class AddPastToArrivalItems < ActiveRecord::Migration[7.2]
  def change
    add_column :arrival_items, :past, :jsonb
  end
end
