# frozen_string_literal: true

require "fobrel/core"

# pigment.charge is pigment.own_paint now. What is kept here is written the new way, once and for
# all: every document, and every place that speaks of one by its fingerprint. Nothing paints
# otherwise, so strips stay. What has gone out (packages of releases, startup folders) stays as it
# is; it is read either way.
class RenameCharge < ActiveRecord::Migration[7.2]
  EARLIER = Fobrel::Core::Preset::Earlier
  PRESET = Fobrel::Core::Preset::Preset
  PRINTS = %w[editions drafts presets strips arrival_items].freeze
  # Columns in which documents or fingerprints lie among other things.
  SPOKEN_OF = {
    "seats" => %w[handed_out report],
    "releases" => %w[items],
    "ledger_entries" => %w[undo],
    "arrival_items" => %w[past],
    "arrivals" => %w[choices report]
  }.freeze

  def up
    execute "CREATE TEMPORARY TABLE prints (was text PRIMARY KEY, now text NOT NULL) ON COMMIT DROP"
    %w[editions drafts arrival_items].each { rewrite(_1) }
    PRINTS.each { |table|
      execute "UPDATE #{table} SET fingerprint = prints.now FROM prints WHERE fingerprint = prints.was"
    }
    @prints = select_rows("SELECT was, now FROM prints").to_h
    SPOKEN_OF.each { |table, columns| columns.each { speak_anew(table, _1) } }
  end

  def down = raise(ActiveRecord::IrreversibleMigration)

  private

  def rewrite(table)
    each_page("SELECT id, document FROM #{table} WHERE document -> 'pigment' ? 'charge'") do |id, document|
      was = JSON.parse(document)
      now = EARLIER.rewritten(was)
      prints = [was, now].map { quote(PRESET.fingerprint_of(_1)) }
      execute "UPDATE #{table} SET document = #{quote(JSON.generate(now))} WHERE id = #{id}"
      execute "INSERT INTO prints VALUES (#{prints.join(", ")}) ON CONFLICT DO NOTHING"
    end
  end

  def speak_anew(table, column)
    each_page("SELECT id, #{column} FROM #{table} WHERE #{column} IS NOT NULL") do |id, text|
      was = JSON.parse(text)
      now = anew(was)
      execute "UPDATE #{table} SET #{column} = #{quote(JSON.generate(now))} WHERE id = #{id}" unless was == now
    end
  end

  def anew(value)
    case value
    when Hash then EARLIER.rewritten(value).to_h { |key, inner| [@prints.fetch(key, key), anew(inner)] }
    when Array then value.map { anew(_1) }
    when String then @prints.fetch(value, value)
    else value
    end
  end

  # A thousand rows at a time: a large library's documents do not fit into memory at once.
  def each_page(sql, &)
    last = 0
    loop do
      rows = select_rows("SELECT * FROM (#{sql}) AS all_of_them WHERE id > #{last} ORDER BY id LIMIT 1000")
      break if rows.empty?
      rows.each { |id, text| yield id, text }
      last = rows.last.first
    end
  end

  def quote(text) = connection.quote(text)
end
