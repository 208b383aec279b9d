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
        page = found.in_order(order, set: ordering_set).offset(offset).limit(params.fetch("limit", MOST).to_i.clamp(1, MOST))
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
        answer({total: found.count, families: counts(found, "family_id"), labels: counts(found, "label_id"), authors: counts(found, "author"), licences: counts(found, "licence"),
                tags: tag_counts(found), traits: trait_counts(found), states: states(found)})
      end

      post "/api/libraries/:library/hidings" do
        data = json
        entry = Actions::HidePresets.call(library: library(:edit), person:, ids: ids(data), hidden: data.fetch("hidden", true) == true)
        answer({entry: Views::Entry.new(entry).to_h})
      end

      get "/api/libraries/:library/attic" do
        hidden = library.presets.where.not(hidden_at: nil).includes(:hidden_by).order(hidden_at: :desc)
        who = hidden.to_h { [_1.id, {by: _1.hidden_by&.name, at: _1.hidden_at.iso8601}] }
        answer({presets: rows(hidden).map { _1.merge(who.fetch(_1["id"])) }})
      end

      delete "/api/libraries/:library/attic" do
        answer({entry: Views::Entry.new(Actions::DestroyPresets.call(library: library(:lock), person:, ids: ids(json))).to_h})
      end

      post "/api/libraries/:library/duplicates" do
        answer({entry: Views::Entry.new(Actions::DuplicatePresets.call(library: library(:edit), person:, ids: ids(json))).to_h})
      end

      # New names for many. With plan=true nothing is changed.
      post "/api/libraries/:library/renames" do
        data = json
        found = library(:edit)
        plan = renaming(found, data)
        next answer({rows: plan.map { |preset, row| {id: preset.id, from: row.from, to: row.to, clash: row.clash} }, entry: nil}) if signed?("plan")
        answer({rows: [], entry: Views::Entry.new(rename(found, plan)).to_h}, 201)
      end

      # The settings in which brushes differ, side by side.
      post "/api/libraries/:library/differences" do
        list = ids(json).first(6)
        presets = library.presets.where(id: list).includes(:current_edition).index_by(&:id).values_at(*list).compact
        answer({presets: rows(presets).zip(presets).map { |row, preset| row.merge(document: Core::Preset::Schema.fill(preset.current_edition.document)) },
                rows: Core::Curation::Differences.of(presets.map { _1.current_edition.value }).map { |title, values| {title:, values:} }})
      end

      get "/api/libraries/:library/doubles" do
        answer(doubles(library(:edit)))
      end

      post "/api/libraries/:library/doubles" do
        data = json
        answer({entry: Views::Entry.new(Actions::KeepDouble.call(library: library(:edit), person:, keep: number(data["keep"]), ids: ids(data))).to_h})
      end

      get "/api/libraries/:library/overview" do
        answer(Models::Overview.new(library, person).to_h)
      end

      post "/api/libraries/:library/proofs" do
        data = json
        found = library
        list = ids(data).first(2000)
        presets = found.presets.where(id: list).index_by(&:id).values_at(*list).compact
        sheet = Models::Proof.new(presets, title: text(data, "title", found.name), options: data)
        format = (data["format"] == "png") ? "png" : "pdf"
        headers "Content-Type" => {"pdf" => "application/pdf", "png" => "application/zip"}[format], "Content-Disposition" => "attachment; filename*=UTF-8''proof-sheet.#{(format == "pdf") ? "pdf" : "zip"}"
        halt 200, (format == "pdf") ? sheet.pdf : sheet.png_zip
      end

      helpers do
        def query = @query ||= Core::Curation::Query.parse(params["q"])

        def search = @search ||= Models::Search.new(library: library, person:, query:)

        def order = Models::Search::ORDERS.key?(params["order"]) ? params["order"] : "name"

        def ordering_set = (order == "hand" && params["set"]) ? library.brush_sets.find_by(id: params["set"].to_i) : nil


        def counts(found, column)
          found.where.not(column => [nil, ""]).group(column).count.map { |key, count| {key: key.to_s, count:} }.sort_by { [-_1[:count], _1[:key]] }
        end

        def tag_counts(found)
          Models::Tagging.where(preset_id: found.select(:id)).group(:tag_id).count.map { |key, count| {key: key.to_s, count:} }
        end

        def trait_counts(found)
          inner = found.joins("CROSS JOIN unnest(presets.traits) AS trait").select("presets.id, regexp_replace(trait, '^(answers to|shifts|reel of) .*$', '\\1') AS name").distinct
          Models::Record.connection.select_all("SELECT name, count(*) AS count FROM (#{inner.to_sql}) x GROUP BY name ORDER BY count DESC, name").map { {key: _1["name"], count: _1["count"]} }
        end

        def states(found)
          Core::Curation::Query::STATES.map do |state|
            {key: state, count: found.where(id: Models::Search.new(library: library, person:, query: Core::Curation::Query.parse("is: #{state}")).presets.select(:id)).count}
          end
        end

        def renaming(library, data)
          rules = data["rules"].is_a?(Hash) ? data["rules"] : raise(Halt.new(400, "rules must be an object."))
          presets = Actions::Action.presets_of(library, ids(data))
          tags = Models::Tagging.where(preset: presets).joins(:tag).order("tags.name").pluck(:preset_id, "tags.name").group_by(&:first).transform_values { _1.map(&:last) }
          taken = library.presets.where.not(id: presets.map(&:id)).pluck(:name)
          presets.zip(Core::Curation::Renaming.new(rules).plan(presets.map(&:name), presets.map { tags.fetch(_1.id, []) }, taken))
        end

        def rename(library, plan)
          clash = plan.find { |_, row| row.clash && row.from != row.to }
          raise Halt.new(422, "“#{clash.last.to}” cannot be a new name: #{clash.last.clash}. Nothing was renamed. Change the rules.") if clash
          rows = plan.filter_map do |preset, row|
            next if row.from == row.to
            value = preset.current_edition.value
            Actions::RevisePresets::Row.new(preset, value, value.with("name", row.to))
          end
          Actions::RevisePresets.call(library:, person:, rows:, as: "editions", kind: "rename", deed: "renamed")
        end

        # Painting what was never painted takes long, so it is done a part at a time: the page
        # asks again until nothing is left.
        def doubles(library)
          left = Models::Doubles.new(library)
          more = left.prepare(seconds: 2)
          return {ready: false, left: more, groups: []} if more.positive?
          groups = left.groups
          known = rows(library.presets.where(id: groups.flat_map { _1[:ids] })).index_by { _1["id"] }
          {ready: true, left: 0, groups: groups.map { |group| {kind: group[:kind], alike: group[:alike], presets: group[:ids].map { |id| known[id] }, differences: group[:differences]} }}
        end
      end
    end
  end
end
