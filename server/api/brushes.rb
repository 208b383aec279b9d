# frozen_string_literal: true

module Fobrel
  module Api
    # Finding, and what is done to many brushes at once.
    module Brushes
      extend Sinatra::Extension

      # Rows of a page, at the most.
      MOST = 200
      # Brushes that are set side by side.
      SIDE_BY_SIDE = 6

      get "/api/libraries/:library/brushes" do
        offset = params.fetch("offset", 0)
        page = search.page(**order, offset:, limit: params.fetch("limit", MOST).clamp(1, MOST))
        answer(
          {
            total: search.total,
            tolerant: search.tolerant?,
            query: query.to_s,
            terms: Views.terms(query),
            offset:,
            presets: Views::Rows.by_id(page, person)
          }
        )
      end

      # All that were found, for picking a range or everything.
      get "/api/libraries/:library/brushes/ids" do
        # Written by the database: there may be a hundred thousand.
        ids = search.in_order(**order).filter_map do |part|
          found = part.select("presets.id").to_sql
          Models::Record.connection.select_value("SELECT string_agg(id::text, ',') FROM (#{found}) AS found")
        end
        content_type :json
        halt %({"ids":[#{ids.join(",")}]})
      end

      post "/api/libraries/:library/rows" do
        answer({presets: Views::Rows.of(library.presets.where(id: json["preset_ids"]), person)})
      end

      # The line with a value added to one of its terms, or taken out again.
      get "/api/libraries/:library/brushes/line" do
        answer({line: query.toggled(params["term"], params["value"]).to_s})
      end

      # What the search field shows while somebody types.
      get "/api/libraries/:library/search" do
        answer(Finding::SearchPreview.new(library:, person:, typed: params.fetch("q", "")).to_h)
      end

      # How many of those found hang where.
      get "/api/libraries/:library/facets" do
        answer(Finding::Facets.new(search).to_h)
      end

      get "/api/libraries/:library/overview" do
        answer(Reports::Overview.new(library, person).to_h)
      end

      post "/api/libraries/:library/copies" do
        answer_for_many("duplicate", json.slice("preset_ids"))
      end

      # New names for many. With plan=true nothing is changed.
      post "/api/libraries/:library/renames" do
        said = json.slice("preset_ids", "rules")
        next answer_for_many("rename", said, 201, rows: []) unless params["plan"]
        rename = {library: library, person:, ids: said["preset_ids"], rules: said["rules"]}
        rows = Actions::RenamePresets.new(**rename).plan.map { |preset, row|
          {id: preset.id, from: row.from, to: row.to, clash: row.clash}
        }
        answer({rows:, entry: nil})
      end

      # The settings in which brushes differ, side by side.
      post "/api/libraries/:library/differences" do
        ids = json["preset_ids"].first(SIDE_BY_SIDE)
        presets = library.presets.includes(:current_version).in_order_of(:id, ids).to_a
        values = presets.map { |preset| preset.current_version.value }
        rows = Views::Rows.of(presets, person).zip(values).map { |row, value|
          {**row, document: Core::Preset::Schema.fill(value.to_h)}
        }
        differences = Core::Curation::Differences.of(values).map { |title, list| {title:, values: list} }
        answer({presets: rows, rows: differences})
      end

      helpers do
        def query = @query ||= Core::Curation::Query.parse(params["q"])

        def search = @search ||= Finding::Search.new(library: library, person:, query:)

        def order
          by = params.fetch("order", "name")
          {by:, set: (library.brush_sets.find_by(id: params["set"]) if by == "own")}
        end
      end
    end
  end
end
