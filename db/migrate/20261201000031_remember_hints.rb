# frozen_string_literal: true

# The hints that a person has read, by name; each is shown until then.
class RememberHints < ActiveRecord::Migration[7.2]
  def change
    add_column :people, :hints, :text, array: true, null: false, default: []
  end
end
