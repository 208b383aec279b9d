# frozen_string_literal: true

# Sets that fill themselves point to the tags, families, work states and sets they name, so that a new name
# takes nothing from them; and names that look the same are the same.
class PointStandingSets < ActiveRecord::Migration[7.2]
  NAMED = %w[tags tag_synonyms families labels brush_sets].freeze

  def up
    add_column :brush_sets, :pointers, :jsonb, null: false, default: {}
    NAMED.each { |table| clean(table) }
    Fobrel::Models::BrushSet.reset_column_information
    Fobrel::Models::BrushSet.where.not(query: nil).find_each { |set|
      set.update_columns(
        pointers: Fobrel::Finding::Standing.pointers(
          set.library,
          Fobrel::Core::Curation::Query.parse(set.query)
        )
      )
    }
  end

  def down = remove_column(:brush_sets, :pointers)

  private

  # One that would be the same as another gets the next number.
  def clean(table)
    rows = select_rows("SELECT id, library_id, name FROM #{table} ORDER BY id")
    taken = rows.to_h { |id, library, name| [[library, name.downcase], id] }
    rows.each do |id, library, name|
      now = Fobrel::Core::Names.clean(name)
      now = "unnamed" if now.empty?
      next if now == name
      free = [now].chain(
        (2..).lazy.map {
          "#{now} #{_1}"
        }
      ).find { |word| [nil, id].include?(taken[[library, word.downcase]]) }
      taken[[library, free.downcase]] = id
      execute("UPDATE #{table} SET name = #{quote(free)} WHERE id = #{Integer(id)}")
    end
  end
end
