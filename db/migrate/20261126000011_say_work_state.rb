# frozen_string_literal: true

# The term of a search for a work state is called as on the screen; what was kept with the earlier word reads alike.
class SayWorkState < ActiveRecord::Migration[7.2]
  def up = rename_term("label", "work state")

  def down = rename_term("work state", "label")

  private

  def rename_term(from, to)
    execute <<~SQL
      UPDATE brush_sets SET pointers = (pointers - '#{from}') || jsonb_build_object('#{to}', pointers -> '#{from}')
      WHERE pointers ? '#{from}'
    SQL
  end
end
