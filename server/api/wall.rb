# frozen_string_literal: true

module Fobrel
  module Api
    # Finding and ordering: pages of the Wall, facets with counts, and what is done to many.
    class Wall < Base
      helpers Rows

      MOST = 200

      get "/api/libraries/:library/wall" do
        found = search
        offset = params["offset"].to_i.clamp(0, 1_000_000)
        total = found.presets.count
        page = found.in_order(
          order,
          set: ordering_set
        ).offset(offset).limit(params.fetch("limit", MOST).to_i.clamp(1, MOST))
        answer({total:, tolerant: found.tolerant?, query: query.to_s, offset:, presets: rows(page)})
      end

      # All that were found, for picking a range or everything.
      get "/api/libraries/:library/wall/ids" do
        answer({ids: search.in_order(order, set: ordering_set).pluck(:id)})
      end

      post "/api/libraries/:library/rows" do
        found = library.presets.where(id: ids(json)).index_by(&:id)
        answer({presets: rows(found.values)})
      end

      # How many of those found hang where.
      get "/api/libraries/:library/facets" do
        found = search.presets
        columns = column_counts(found)
        answer(
          {
            total: found.count,
            families: columns["family_id"],
            labels: columns["label_id"],
            authors: columns["author"],
            licences: columns["licence"],
            tags: tag_counts(found),
            traits: trait_counts(found),
            states: states(found)
          }
        )
      end

      post "/api/libraries/:library/hidings" do
        data = json
        entry = Actions::HidePresets.call(
          library: library,
          person:,
          ids: ids(data),
          hidden: data.fetch("hidden", true) == true
        )
        answer({entry: Views.entry(entry)})
      end

      get "/api/libraries/:library/attic" do
        hidden = library.presets.where.not(hidden_at: nil).includes(:hidden_by).order(hidden_at: :desc)
        who = hidden.to_h { [_1.id, {by: _1.hidden_by&.name, at: _1.hidden_at.iso8601}] }
        answer({presets: rows(hidden).map { _1.merge(who.fetch(_1["id"])) }})
      end

      delete "/api/libraries/:library/attic" do
        answer(
          {
            entry: Views.entry(
              Actions::DestroyPresets.call(
                library: library,
                person:,
                ids: ids(json)
              )
            )
          }
        )
      end

      post "/api/libraries/:library/duplicates" do
        answer(
          {
            entry: Views.entry(
              Actions::DuplicatePresets.call(
                library: library,
                person:,
                ids: ids(json)
              )
            )
          }
        )
      end

      # New names for many. With plan=true nothing is changed.
      post "/api/libraries/:library/renames" do
        data = json
        found = library
        rename = {library: found, person:, ids: ids(data), rules: data["rules"].is_a?(Hash) ? data["rules"] : {}}
        if signed?("plan")
          next answer(
            {
              rows: Actions::RenamePresets.new(**rename).plan.map { |preset, row|
                {id: preset.id, from: row.from, to: row.to, clash: row.clash}
              },
              entry: nil
            }
          )
        end
        answer({rows: [], entry: Views.entry(Actions::RenamePresets.call(**rename))}, 201)
      end

      # The settings in which brushes differ, side by side.
      post "/api/libraries/:library/differences" do
        list = ids(json).first(6)
        presets = library.presets.where(id: list).includes(:current_edition).index_by(&:id).values_at(*list).compact
        answer(
          {
            presets: rows(presets).zip(presets).map { |row, preset|
              row.merge(document: Core::Preset::Schema.fill(preset.current_edition.document))
            },
            rows: Core::Curation::Differences.of(
              presets.map {
                _1.current_edition.value
              }
            ).map { |title, values| {title:, values:} }
          }
        )
      end

      get "/api/libraries/:library/doubles" do
        answer(doubles(library))
      end

      post "/api/libraries/:library/doubles" do
        data = json
        answer(
          {
            entry: Views.entry(
              Actions::KeepDouble.call(
                library: library,
                person:,
                keep: number(data["keep"]),
                ids: ids(data)
              )
            )
          }
        )
      end

      get "/api/libraries/:library/overview" do
        answer(Models::Overview.new(library, person).to_h)
      end

      helpers do
        def query = @query ||= Core::Curation::Query.parse(params["q"])

        def search = @search ||= Models::Search.new(library: library, person:, query:)

        def order = Models::Search::ORDERS.key?(params["order"]) ? params["order"] : "name"

        def ordering_set = (order == "hand" && params["set"]) ? library.brush_sets.find_by(id: params["set"].to_i) : nil

        # One pass over what was found counts all four columns.
        def column_counts(found)
          columns = %w[family_id label_id author licence]
          sets = columns.map { |column| "(presets.#{column})" }.join(", ")
          picked = columns.map { |column| "presets.#{column}, grouping(presets.#{column}) AS no_#{column}" }.join(", ")
          rows = Models::Record.connection.select_all(
            found.select("#{picked}, count(*) AS count").group(
              Arel.sql(
                "GROUPING SETS (#{sets})"
              )
            ).to_sql
          ).to_a
          columns.to_h do |column|
            own = rows.select { |row| row["no_#{column}"].zero? && row[column].to_s != "" }
            [column, own.map { |row| {key: row[column].to_s, count: row["count"]} }.sort_by { [-_1[:count], _1[:key]] }]
          end
        end

        def tag_counts(found)
          Models::Tagging.where(preset_id: found.select(:id)).group(:tag_id).count.map { |key, count|
            {key: key.to_s, count:}
          }
        end

        def trait_counts(found)
          inner = found.joins("CROSS JOIN unnest(presets.traits) AS trait")
            .select("trait, count(*) AS count").group("trait")
          Models::Record.connection.select_rows(inner.to_sql).each_with_object(Hash.new(0)) { |(trait, count), all|
            Core::Curation::Traits.counted(trait).each {
              all[_1] += count
            }
          }
            .map { |key, count|
            {key:, count:}
          }.sort_by { [-_1[:count], _1[:key]] }
        end

        def states(found)
          states = Core::Curation::Query::STATES
          picked = states.each_with_index.map { |state, index|
            "count(*) FILTER (WHERE #{@search.state(state)}) AS s#{index}"
          }
          row = Models::Record.connection.select_one(found.select(picked.join(", ")).to_sql)
          states.each_with_index.map { |state, index| {key: state, count: row["s#{index}"]} }
        end

        # Painting what was never painted, and looking closely, take long, so they are done a part
        # at a time: the page asks again until nothing is left.
        def doubles(library)
          left = Models::Doubles.new(library)
          more = left.prepare(seconds: 3)
          return {ready: false, left: more, groups: []} if more.positive?
          groups = left.groups
          known = rows(library.presets.where(id: groups.flat_map { _1[:ids] })).index_by { _1["id"] }
          {
            ready: true,
            left: 0,
            groups: groups.map { |group|
              {
                kind: group[:kind],
                alike: group[:alike],
                presets: group[:ids].map { |id|
                  known[id]
                },
                differences: group[:differences]
              }
            }
          }
        end
      end
    end
  end
end
