# frozen_string_literal: true

module Fobrel
  module Views
    # What an entry of the history changed, for people.
    module Entries
      # Columns that say nothing to anybody.
      # What columns are called on the screen, where that is not their own name.
      WORDS = {
        "current_version_id" => "current version",
        "baseline_version_id" => "baseline",
        "category_id" => "category",
        "status_id" => "status",
        "desk_id" => "desk",
        "hidden_at" => "hidden"
      }.freeze
      LEFT_OUT = %w[id library_id position sum words plain_name fingerprint updated_at created_at].freeze
      # A value is told in so many letters.
      LETTERS = 120
      # What a column that points to a row points to.
      POINTS = {
        "category_id" => Models::Category,
        "status_id" => Models::Status,
        "preset_id" => Models::Preset,
        "tag_id" => Models::Tag,
        "brush_set_id" => Models::BrushSet,
        "bundle_id" => Models::Bundle,
        "desk_id" => Models::Desk,
        "cover_id" => Models::Preset,
        "locked_by_id" => Models::Person,
        "hidden_by_id" => Models::Person,
        "person_id" => Models::Person
      }.freeze
      VERSIONS = %w[current_version_id baseline_version_id base_version_id].freeze
      # Of so many brushes it is told what another version changed, so many settings of each.
      TOLD = 50
      SETTINGS = 6
      private_constant :TOLD, :SETTINGS
      private_constant :LEFT_OUT, :LETTERS, :POINTS, :VERSIONS

      class << self
        # @param list [Array<History::Changes::Change>]
        # @return [Array<Hash>] as openapi.yaml describes EntryChange
        def changes(list)
          names = names(list)
          list.map do |change|
            {
              thing: Fobrel::History::Table.named(change.table).noun,
              name: names.dig(change.table, change.key) || joined(change, names),
              what: change.kind.to_s,
              columns: columns(change, names)
            }
          end
        end

        private

        # What rows are called, of all that these changes speak of: by table and key, beside the numbers and settings of
        # versions.
        def names(list)
          own = list.group_by(&:table).to_h { |table, some|
            [table, called(Fobrel::History::Table.named(table).model, some)]
          }
          pointed(list).each { |model, ids| (own[model.table_name] ||= {}).merge!(names_of(model, ids.to_a)) }
          ids = sides(list).flat_map { |row| row.values_at(*VERSIONS) }.compact.uniq
          found = Models::Version.where(id: ids)
          own.merge(
            "versions" => found.pluck(:id, :number).to_h,
            "documents" => found.where(id: ids.first(2 * TOLD)).pluck(:id, :document).to_h
          )
        end

        def sides(list) = list.flat_map { |change| [change.before, change.after].compact }

        # What the rows and their keys point to.
        def pointed(list)
          found = Hash.new { |all, model| all[model] = Set.new }
          sides(list).each { |row| row.each { |column, id| found[POINTS[column]] << id if POINTS[column] && id } }
          list.each do |change|
            key = Fobrel::History::Table.named(change.table).key
            key.zip(change.key.split("-")).each { |column, id| found[POINTS[column]] << id.to_i if POINTS[column] }
          end
          found
        end

        def names_of(model, ids) = model.where(id: ids).pluck(:id, :name).to_h.transform_keys(&:to_s)

        # As they were called then.
        def called(model, some)
          return {} unless model.column_names.include?("name")
          kept = some.to_h { |one| [one.key, (one.after || one.before)["name"]] }.compact
          names_of(model, some.map(&:key).grep(/\A\d+\z/)).merge(kept)
        end

        # Of a row that joins two, what it joins.
        def joined(change, names)
          key = Fobrel::History::Table.named(change.table).key
          key.zip(change.key.split("-")).filter_map { |column, id|
            POINTS[column] && names.dig(POINTS[column].table_name, id)
          }.join(" · ")
        end

        def columns(change, names)
          return [] unless change.kind == :changed
          settings(change, names) + change.after.keys.reject { LEFT_OUT.include?(_1) }.map do |column|
            {
              name: WORDS.fetch(column) { column.delete_suffix("_id").tr("_", " ") },
              before: said(column, change.before[column], names),
              after: said(column, change.after[column], names)
            }
          end
        end

        # What another version paints otherwise.
        def settings(change, names)
          before, after = [change.before, change.after].map { names["documents"][_1["current_version_id"]] }
          return [] unless before && after
          was, now = [before, after].map { Core::Preset::Preset.restore(_1) }
          Core::Preset::Changes.between(was, now).first(SETTINGS).map { |one| {name: one.words, before: "", after: ""} }
        end

        def said(column, value, names)
          return "" if value.nil?
          return "version #{names["versions"][value] || "?"}" if VERSIONS.include?(column)
          return names.dig(POINTS[column].table_name, value.to_s) || "#" + value.to_s if POINTS[column]
          (value.is_a?(String) ? value : JSON.generate(value)).truncate(LETTERS)
        end
      end
    end
  end
end
