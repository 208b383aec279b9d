# frozen_string_literal: true

module Fobrel
  module Api
    # Bundles, their preflight, and their releases.
    class Bundles < Base
      get "/api/libraries/:library/bundles" do
        answer({bundles: library.bundles.order(:name).map { bundle_view(_1) }})
      end

      post "/api/libraries/:library/bundles" do
        data = json
        found = library
        made = Models::Record.transaction do
          found.bundles.create!(name: text(data, "name"), author: person.name).tap { |bundle|
            Actions::ChangeBundle.call(
              bundle:,
              person:,
              ids: data.key?("preset_ids") ? ids(data) : [],
              sections: sections(data)
            )
          }
        end
        answer(bundle_view(made), 201)
      end

      put "/api/bundles/:id" do
        data = json
        found = bundle
        entry = Actions::ChangeBundle.call(
          bundle: found,
          person:,
          words: Actions::ChangeBundle::WORDS.select {
            data.key?(_1)
          }.to_h { [_1, text(data, _1)] },
          ids: data["preset_ids"] && ids(data),
          before: data["before"] && ids(data, "before"),
          sections: sections(data),
          cover: data["cover"].is_a?(Integer) ? data["cover"] : nil
        )
        answer({bundle: bundle_view(found.reload), entry: entry && Views.entry(entry)})
      end

      # A picture of its own as the cover; the bytes are the body.
      put "/api/bundles/:id/picture" do
        found = bundle
        found.keep_picture(
          read_body(Core::Tip::Picture::MAX_BYTES),
          name: params["file"].to_s[0, 120].presence || "The picture"
        )
        answer(bundle_view(found.reload))
      end

      # Under its sum: another picture has another address.
      get %r{/api/bundles/(\d+)/picture-(\h{64})\.png} do |id, sum|
        params["id"] = id
        raise ActiveRecord::RecordNotFound unless bundle.picture == sum
        forever("image/png", Models::Asset::Bytes.fetch(sum) { raise ActiveRecord::RecordNotFound })
      end

      delete "/api/bundles/:id" do
        removed(bundle)
      end

      # What sizes are held against.
      put "/api/libraries/:library/canvas" do
        found = library
        found.update!(canvas: json.slice("width", "height"))
        answer({canvas: found.canvas})
      end

      get "/api/bundles/:id/preflight" do
        found = bundle
        action = Actions::ReleaseBundle.new(bundle: found, person:)
        changes = action.since_last
        last = found.releases.listed.last&.number
        answer(
          {
            findings: action.findings.map(&:to_h),
            level: changes.level,
            number: changes.next(last),
            last:,
            notes: changes.notes,
            differences: changes.differences
          }
        )
      end

      post "/api/bundles/:id/releases" do
        data = json
        release = Actions::ReleaseBundle.call(
          bundle: bundle,
          person:,
          number: data["number"],
          notes: text(data, "notes", "")
        )
        answer(release_view(release), 201)
      end

      get "/api/releases/:id/package" do
        found = release
        file = "#{found.words["name"]}-#{found.number}".downcase.gsub(/[^[:alnum:].]+/, "-")
        bytes = Models::Release.where(id: found.id).pick(:package)
        Actions::NoteExport.call(
          library: found.bundle.library,
          person:,
          release: found,
          kind: "package",
          name: "#{found.words["name"]} #{found.number}",
          file: "#{file}.fobrel.zip",
          goes_to: token? ? "the command line" : "this browser",
          wish: {"release" => found.id},
          count: found.items.size,
          size: bytes.bytesize,
          sha256: found.sha256
        )
        headers "Content-Type" => "application/zip",
          "Content-Disposition" => "attachment; filename*=UTF-8''#{ERB::Util.url_encode(file)}.fobrel.zip"
        halt 200, bytes
      end

      put "/api/releases/:id/withdraw" do
        entry = Actions::WithdrawRelease.call(release: release, person:, reason: text(json, "reason"))
        answer({entry: Views.entry(entry)})
      end

      # Any two releases, brush by brush, with what each paints.
      get "/api/bundles/:id/comparison" do
        found = bundle
        one, other = %w[from to].map { |key| found.releases.listed.find(number(params[key])) }
        greatest = Models::Edition.greatest((one.items + other.items).map { _1["fingerprint"] }.uniq)
        shown = ->(item) {
          item&.slice("name", "fingerprint", "edition")&.merge("greatest" => greatest[item["fingerprint"]])
        }
        ids = one.items.map { _1["id"] } | other.items.map { _1["id"] }
        answer(
          {
            rows: ids.filter_map do |id|
              before = one.items.find { _1["id"] == id }
              after = other.items.find { _1["id"] == id }
              next if before&.slice("name", "fingerprint") == after&.slice("name", "fingerprint")
              {name: (after || before)["name"], before: shown[before], after: shown[after]}
            end,
            notes: Core::Curation::ReleaseNumber.new(one.brushes, other.brushes).notes
          }
        )
      end

      helpers do
        def bundle = of_library(Models::Bundle)

        def release
          found = Models::Release.listed.find(number(params["id"]))
          membership(found.bundle.library_id)
          found
        end

        def bundle_view(bundle)
          {
            id: bundle.id,
            **bundle.words.symbolize_keys,
            cover: bundle.cover_id,
            picture: bundle.picture && "/api/bundles/#{bundle.id}/picture-#{bundle.picture}.png",
            preset_ids: bundle.preset_ids_in_order,
            sections: bundle.section_by_preset.transform_keys(&:to_s),
            releases: bundle.releases.listed.includes(:person).reverse.map { release_view(_1) }
          }
        end

        def release_view(release)
          {
            id: release.id,
            number: release.number,
            notes: release.notes,
            count: release.items.size,
            by: release.person.name,
            at: release.created_at.iso8601,
            sha256: release.sha256,
            withdrawn: release.withdrawn_at && {at: release.withdrawn_at.iso8601, reason: release.withdrawn_reason}
          }
        end
      end
    end
  end
end
